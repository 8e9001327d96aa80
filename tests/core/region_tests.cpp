// The region's stand-in and uploads to it: what is denied, what goes through broken connections once, and
// that nothing hostile stops the server or gets out of its folder.
#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/deliver/solid_scene.h"
#include "core/formats/scene_file.h"
#include "core/platform/sheet.h"
#include "core/solids/light_bake.h"
#include "core/solids/scene_model.h"
#include "core/upload/upload.h"
#include "standins/region/region_arena.h"
#include "standins/region/region_server.h"
#include "standins/region/region_store.h"
#include "standins/region/region_visit.h"
#include "standins/world/arena.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <httplib.h>
#include <nlohmann/json.hpp>

#include <arpa/inet.h>
#include <fcntl.h>
#include <netinet/in.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <unistd.h>

#include <atomic>
#include <fstream>
#include <random>
#include <thread>

namespace region_tests {

using namespace zl;
using standins::region::FaultShares;
using standins::region::RegionServer;
using standins::region::RegionStore;
namespace fs = std::filesystem;

/// A lit scene of a few solids in two groups, as it is delivered.
void writeScene(const fs::path& folder, int solids = 3) {
    solids::Scene scene;
    scene.groups[1] = {"yard", 0, 11};
    scene.groups[2] = {"stack", 1, 0};
    for (int k = 0; k < solids; ++k) {
        solids::Solid& solid = scene.solids[11 + k];
        solid.name = "crate", solid.group = 1 + k % 2;
        solid.at = {0.8 * k, 0.25, 0}, solid.shape.size = {0.5, 0.5, 0.5};
    }
    scene.lights[5] = {"lamp", solids::LightKind::Lamp, {0, 2, 0}, {}, {1, 1, 1}, 1, {0.1, 0.1}};
    const Model model = solids::modelOf(scene, "crates");
    solids::BakeSettings settings;
    settings.pixels = 8, settings.rays = 16, settings.samples = 16;
    solids::LightStore store(1u << 24);
    const Model lit =
        solids::litModel(model, *solids::shownBy(model),
                         solids::bakeLight(model, *solids::shownBy(model), settings, store, {}));
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "commonmoor");
    writeAllOrNone(folder, deliver::solidSceneFiles(lit, *solids::shownBy(lit), *sheet, "crates", {}));
}

upload::Secret mira() {
    return upload::Secret(std::string("lantern-on-the-") + "quay");
}

upload::Connection::To to(const RegionServer& server, int tries = 60) {
    return {server.url(), "mira", {}, {tries, 0.001, 0.01}};
}

upload::Uploaded uploaded(const RegionServer& server, const fs::path& folder,
                          upload::Region region = upload::Region::Test) {
    upload::Connection connection(to(server), mira(), [](const std::string&) {});
    return upload::upload(upload::cargoIn(folder), region, connection, {}, {});
}

std::string reason(const auto& work) {
    try {
        work();
    } catch (const Error& error) {
        return error.what();
    }
    return "nothing was refused";
}

TEST_CASE("a scene goes up once, grouped as before, and to the main region after that", "[region]") {
    const TemporaryFolder data, folder;
    writeScene(folder.path());
    const RegionServer server({data.path()});
    CHECK_THAT(reason([&] { uploaded(server, folder.path(), upload::Region::Main); }),
               Catch::Contains("wants what stands in the test region"));
    const auto first = uploaded(server, folder.path());
    CHECK(first.solids == 3);
    CHECK(first.groups == 2);
    CHECK(first.pictures >= 3);
    CHECK(first.verdict == "stands");
    CHECK(first.above == 3);
    const auto again = uploaded(server, folder.path());
    CHECK(again.solids + again.groups + again.pictures == 0);
    CHECK(again.there == first.solids + first.groups + first.pictures);
    const auto main = uploaded(server, folder.path(), upload::Region::Main);
    CHECK(main.solids == 3);
    CHECK(main.pictures == 0);

    const RegionStore store(data.path());
    for (const char* region : {"test", "main"}) {
        REQUIRE(store.builds(region) == std::vector<std::string>{"crates"});
        const auto build = *store.build(region, "crates");
        REQUIRE(build.solids.size() == 3);
        CHECK(build.solids.at(11).group == 1);
        CHECK(build.solids.at(12).group == 2);
        CHECK(build.groups.at(2).within == 1);
        CHECK(build.groups.at(1).lead == 11);
        // Y up and +Z ahead here; Z up and +X ahead there: our X is its Y.
        CHECK(build.solids.at(12).at == glm::dvec3(0, 0.8, 0.25));
        CHECK(build.solids.at(11).pictures.size() == 6);
        for (const auto& [face, picture] : build.solids.at(11).pictures) CHECK(store.picture(picture));
    }
    CHECK(store.placesTaken("test") == 3);
}

TEST_CASE("a changed scene takes the place of what stood there", "[region]") {
    const TemporaryFolder data, folder;
    writeScene(folder.path());
    const RegionServer server({data.path()});
    uploaded(server, folder.path());
    writeScene(folder.path(), 5);
    const auto more = uploaded(server, folder.path());
    CHECK(more.solids == 5);
    const RegionStore store(data.path());
    CHECK(store.builds("test").size() == 1);
    CHECK(store.build("test", "crates")->solids.size() == 5);
}

TEST_CASE("a visitor sees what was uploaded, with its pictures and groups, and nobody without the password",
          "[region]") {
    const TemporaryFolder data, delivered;
    writeScene(delivered.path(), 5);
    const RegionServer server({data.path()});
    const auto as = [&](upload::Secret password, const char* place) {
        return standins::Visit{server.url(), "mira", place, std::move(password)};
    };
    standins::TryReport report;
    CHECK(reason([&] { standins::region::visit(as(mira(), "test"), report, {}); }).find("nothing stands") !=
          std::string::npos);
    uploaded(server, delivered.path());
    const auto seen = standins::region::visited(as(mira(), "test"), {});
    REQUIRE(seen.size() == 1);
    CHECK(seen[0].name == "crates");
    CHECK(seen[0].solids.size() == 5);
    CHECK(seen[0].groups.size() == 2);
    CHECK(seen[0].groups.at(2).within == 1);
    CHECK(seen[0].pictures.size() >= 5);
    // The same as the delivered folder's own.
    standins::TryReport read;
    standins::world::Files files(delivered.path(), read);
    const auto own = standins::region::loadScene(files, read);
    REQUIRE(own);
    std::multiset<double> there, here;
    for (const auto& solid : seen[0].solids) there.insert(solid.at.y);
    for (const auto& solid : own->solids) here.insert(solid.at.y);
    CHECK(there == here);
    CHECK(seen[0].places == own->places);
    CHECK(standins::region::visited(as(mira(), "main"), {}).empty());
    CHECK(reason([&] { standins::region::visited(as(upload::Secret("guess"), "test"), {}); }).find("wrong") !=
          std::string::npos);
    CHECK(reason([&] { standins::region::visited(as(mira(), "attic"), {}); }).find("region") !=
          std::string::npos);
}

TEST_CASE("one walks about in a region: up a step, not through a post, and through what lets one",
          "[region]") {
    namespace region = standins::region;
    region::DeliveredScene scene;
    scene.name = "yard";
    const auto add = [&](const char* name, glm::dvec3 at, glm::dvec3 size, const char* physics) {
        region::BuiltSolid solid;
        solid.number = int(scene.solids.size()) + 1;
        solid.name = name, solid.kind = "box", solid.physics = physics, solid.outline = "same";
        solid.at = at, solid.size = size;
        scene.solids.push_back(solid);
    };
    // The region's X is ahead, its Y to the left seen from behind; sizes are across, up, along of the solid.
    add("slab", {0, 0, 0.1}, {4, 0.2, 4}, "stands");
    add("post", {0, 0, 1.2}, {0.4, 2, 0.4}, "stands");
    add("curtain", {0, 1.5, 1.2}, {0.4, 2, 0.4}, "lets-through");
    std::vector<region::DeliveredScene> builds;
    builds.push_back(scene);
    const auto arena = region::arenaOf(std::move(builds), "");
    arena->act("down");
    const auto walk = [&](glm::vec2 to) {
        const glm::vec3 from = arena->figureFoot();
        const glm::vec2 way = to - glm::vec2(from.x, from.z);
        arena->walk(glm::normalize(way));
        const double seconds = double(glm::length(way)) / 2.2;
        for (int k = 0; k < 200; ++k) arena->advance(seconds / 200);
        arena->walk({0, 0});
        CHECK_FALSE(arena->advance(0.1));
    };
    CHECK(arena->figureFoot().y == 0);
    walk({1.5f, 1.5f});
    CHECK(arena->figureFoot().y == Approx(0.2).margin(1e-4)); // on the slab
    walk({0.0f, 1.0f});
    walk({0.0f, -1.0f}); // there is a post between
    CHECK(arena->figureFoot().z >= 0.2f + 0.2f);
    CHECK(arena->figureFoot().z < 0.6f);
    walk({1.5f, 1.0f});
    walk({1.5f, -1.0f}); // a curtain
    CHECK(arena->figureFoot().z == Approx(-1).margin(0.02));
    walk({6.0f, -1.0f});
    CHECK(arena->figureFoot().y == 0); // off the slab again
    // A click tells what it is, and once more lets it be.
    const int item = arena->itemAt({0, 1.5f, 5}, {0, 0, -1});
    REQUIRE(item >= 0);
    arena->click(item);
    CHECK(arena->tables().at(0).title == "Clicked");
    CHECK(arena->tables().at(0).rows.at(0).values.at(0) == "post");
    arena->click(item);
    CHECK(arena->tables().at(0).title != "Clicked");
}

TEST_CASE("who is not let in is told why", "[region]") {
    const TemporaryFolder data, folder;
    writeScene(folder.path());
    const RegionServer server({data.path()});
    const auto as = [&](const std::string& user, const std::string& password) {
        return reason([&] {
            auto where = to(server);
            where.user = user;
            upload::Connection connection(where, upload::Secret(password), [](const std::string&) {});
            upload::upload(upload::cargoIn(folder.path()), upload::Region::Test, connection, {}, {});
        });
    };
    CHECK(as("mira", "fennel") == "the name or the password is wrong");
    CHECK(as("nobody", "fennel") == "the name or the password is wrong");
    for (int n = 0; n < 5; ++n) as("odd", "wrong");
    CHECK_THAT(as("odd", "wrong"), Catch::Contains("wait"));
    CHECK(RegionStore(data.path()).builds("test").empty());
}

TEST_CASE("addresses that are none, and those in the open, are refused before anything is sent", "[region]") {
    const auto at = [](const std::string& url) {
        return reason([&] { upload::Connection({url, "mira", {}, {}}, mira(), {}); });
    };
    CHECK_THAT(at("ftp://here"), Catch::Contains("no address"));
    CHECK_THAT(at("http://"), Catch::Contains("no address"));
    CHECK_THAT(at("http://127.0.0.1:99999"), Catch::Contains("port"));
    CHECK_THAT(at("http://127.0.0.1:80/x"), Catch::Contains("no port") || Catch::Contains("no address"));
    CHECK_THAT(at("http://192.0.2.7:80"), Catch::Contains("in the open"));
    CHECK_THAT(reason([] {
                   upload::Connection gone({"http://127.0.0.1:1", "mira", {}, {3, 0.001, 0.001}}, mira(),
                                           [](const std::string&) {});
                   gone.logIn({});
               }),
               Catch::Contains("no answer"));
}

TEST_CASE("a server that forgets again between the log-in and the answer is logged in to again", "[region]") {
    httplib::Server server;
    std::atomic<int> forgets = 3, logIns = 0;
    server.Post("/log-in", [&](const httplib::Request&, httplib::Response& response) {
        ++logIns;
        response.set_content(R"({"token": "of today"})", "application/json");
    });
    server.Get("/inventory", [&](const httplib::Request&, httplib::Response& response) {
        response.status = forgets-- > 0 ? 401 : 200;
    });
    const int port = server.bind_to_any_port("127.0.0.1");
    std::jthread serving([&] { server.listen_after_bind(); });
    const auto ask = [&](int tries) {
        upload::Connection connection(
            {"http://127.0.0.1:" + std::to_string(port), "mira", {}, {tries, 0.001, 0.01}}, mira(),
            [](const std::string&) {});
        return connection.ask("GET", "/inventory", {}, upload::Connection::json, {});
    };
    CHECK(ask(60).status == 200);
    CHECK(logIns == 3);
    forgets = 1'000'000; // one that never knows anybody is given up
    CHECK(ask(5).status == 401);
    CHECK(logIns == 8);
    server.stop();
}

TEST_CASE("through 200 broken connections everything is there once", "[region]") {
    const TemporaryFolder data, folder;
    writeScene(folder.path(), 24);
    std::size_t faults = 0, rounds = 0;
    while (faults < 200) {
        const TemporaryFolder fresh;
        FaultShares shares{0.15, 0.2, 0.2, 0, unsigned(++rounds)};
        const RegionServer server({fresh.path(), 0, shares});
        upload::Connection connection(to(server), mira(), [&](const std::string&) { ++faults; });
        const auto cargo = upload::cargoIn(folder.path());
        const auto done = upload::upload(cargo, upload::Region::Test, connection, {}, {});
        CHECK(done.verdict == "stands");
        CHECK(done.pictures + done.solids + done.groups + done.there == cargo.pieces());
        const RegionStore store(fresh.path());
        CHECK(store.build("test", "crates")->solids.size() == 24);
        CHECK(store.build("test", "crates")->groups.size() == 2);
        CHECK(store.picturesIn("mira", "crates")->size() == cargo.pictures.size());
        CHECK(done.log.size() >= cargo.pieces());
    }
    INFO(faults << " faults in " << rounds << " uploads");
    CHECK(faults >= 200);
}

TEST_CASE("the region counts and refuses as it says", "[region]") {
    const TemporaryFolder data;
    RegionStore store(data.path());
    const std::string hash(64, 'a');
    store.makeFolder("mira", "x");
    const auto denied = [](const auto& work) {
        try {
            work();
        } catch (const standins::region::Denied& why) {
            return why.status;
        }
        return 200;
    };
    CHECK(denied([&] { store.keepPicture("mira", "x", hash, "not a picture"); }) == 422);
    store.begin("test", "b", hash, "mira");
    const auto solid = [&](int number, const std::string& more) {
        return denied([&] {
            store.keepSolid(
                "test", "b", hash, number,
                fmt::format("<solid number=\"{}\" kind=\"box\" size=\"1 1 1\" {}/>", number, more));
        });
    };
    CHECK(solid(1, "") == 200);
    CHECK(solid(2, "at=\"9999 0 0\"") == 422);
    CHECK(solid(2, "twist=\"nan\"") == 422);
    CHECK(denied([&] {
              store.keepSolid("test", "b", hash, 3, "<solid number=\"3\" kind=\"box\" size=\"1 1 51\"/>");
          }) == 422);
    CHECK(denied([&] { store.keepSolid("test", "b", hash, 3, "<solid number=\"3\" kind=\"egg\"/>"); }) ==
          422);
    CHECK(denied([&] { store.keepSolid("test", "b", hash, 3, "<cube/>"); }) == 422);
    CHECK(denied([&] { store.finish("test", "b", hash, 2, 0); }) == 409);
    CHECK(store.finish("test", "b", hash, 1, 0) == 1);
    // 201 in one group, two of them in a group within.
    const std::string other(64, 'b');
    store.begin("test", "c", other, "mira");
    store.keepGroup("test", "c", other, 1, {"g", 0, 0});
    store.keepGroup("test", "c", other, 2, {"h", 1, 0});
    for (int n = 1; n <= 201; ++n)
        store.keepSolid("test", "c", other, n,
                        fmt::format("<solid number=\"{}\" kind=\"box\" group=\"{}\"/>", n, n < 3 ? 2 : 1));
    CHECK(denied([&] { store.finish("test", "c", other, 201, 2); }) == 422);
}

/// Sends bytes as they are; what comes back, in a moment.
std::string sent(int port, const std::string& bytes, bool ends = true) {
    const int socket = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
    sockaddr_in address{};
    address.sin_family = AF_INET, address.sin_port = htons(std::uint16_t(port));
    address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    if (::connect(socket, reinterpret_cast<sockaddr*>(&address), sizeof address) != 0) {
        ::close(socket);
        return {};
    }
    const timeval wait{0, 300000};
    ::setsockopt(socket, SOL_SOCKET, SO_RCVTIMEO, &wait, sizeof wait);
    std::size_t at = 0;
    while (at < bytes.size()) {
        const ssize_t count = ::send(socket, bytes.data() + at, bytes.size() - at, MSG_NOSIGNAL);
        if (count <= 0) break;
        at += std::size_t(count);
    }
    if (ends) ::shutdown(socket, SHUT_WR);
    std::string out(4096, '\0');
    const ssize_t count = ::recv(socket, out.data(), out.size(), 0);
    out.resize(count > 0 ? std::size_t(count) : 0);
    ::close(socket);
    return out;
}

TEST_CASE("1 000 hostile requests leave the server running and the disk outside untouched", "[region]") {
    const TemporaryFolder around, folder;
    const fs::path data = around.path() / "data";
    writeScene(folder.path());
    const RegionServer server({data});
    std::mt19937 random(17);
    const std::vector<std::string> lines{"GET /regions/../../etc/passwd HTTP/1.1",
                                         "GET /pictures/..%2f..%2f..%2fetc%2fpasswd HTTP/1.1",
                                         "PUT /inventory/%2e%2e HTTP/1.1",
                                         "PUT /inventory/..%00x HTTP/1.1",
                                         "PUT /regions/test/builds/x?hash=" + std::string(64, 'a') +
                                             " HTTP/1.1",
                                         "POST /log-in HTTP/1.1",
                                         "GET /" + std::string(9000, 'x') + " HTTP/1.1",
                                         "GET /regions/" + std::string(7000, 'y') + "/builds/z HTTP/1.1",
                                         "BREW /coffee HTTP/1.1",
                                         "GET / HTTP/9.9",
                                         std::string(100, '\0'),
                                         "\xff\xfe\xfd"};
    const std::vector<std::string> headers{"Content-Length: 99999999999999999999",
                                           "Content-Length: -1",
                                           "Content-Length: 3000000",
                                           "Transfer-Encoding: chunked",
                                           "Authorization: Bearer x",
                                           "Authorization: " + std::string(10000, 'b'),
                                           "Range: bytes=0-1,2-3,5-999999",
                                           "Host: \r\n\r\n",
                                           "Content-Encoding: gzip",
                                           "Expect: 100-continue",
                                           std::string(300, 'h') + ": 1"};
    const std::vector<std::string> bodies{"",
                                          "{\"name\": 1}",
                                          "{\"name\": \"mira\", \"password\": \"" + std::string(100000, 'p') +
                                              "\"}",
                                          std::string(200000, '['),
                                          "<?xml version=\"1.0\"?><!DOCTYPE s [<!ENTITY a "
                                          "\"aaaaaaaa\"><!ENTITY b \"&a;&a;&a;\">]><solid name=\"&b;\"/>",
                                          "ffffffffffffffff\r\nxx",
                                          std::string(3000, '\0')};
    for (int n = 0; n < 1000; ++n) {
        std::string bytes = lines[random() % lines.size()] + "\r\n";
        for (unsigned k = 0; k < random() % 4; ++k) bytes += headers[random() % headers.size()] + "\r\n";
        const std::string& body = bodies[random() % bodies.size()];
        if (random() % 2) bytes += fmt::format("Content-Length: {}\r\n", body.size());
        bytes += "\r\n" + body;
        if (random() % 5 == 0) bytes.resize(random() % (bytes.size() + 1));
        const std::string answer = sent(server.port(), bytes);
        CHECK(answer.find("root:") == answer.npos);
        CHECK_THAT(answer, !Catch::StartsWith("HTTP/1.1 2"));
    }
    CHECK(uploaded(server, folder.path()).verdict == "stands");
    std::set<std::string> beside;
    for (const auto& entry : fs::directory_iterator(around.path()))
        beside.insert(entry.path().filename().string());
    CHECK(beside == std::set<std::string>{"data"});
    for (const auto& entry : fs::directory_iterator(data / "inventory"))
        CHECK(entry.path().filename() == "mira");
}

TEST_CASE("passwords come from where they are given and are wiped there", "[region]") {
    ::setenv("ZEST_LOOM_TEST_WORD", "in-the-environment", 1);
    const char* held = ::getenv("ZEST_LOOM_TEST_WORD");
    CHECK(upload::secretFromEnvironment("ZEST_LOOM_TEST_WORD").text() == "in-the-environment");
    CHECK(std::string(held, 4) == std::string(4, '\0'));
    CHECK_THROWS_AS(upload::secretFromEnvironment("ZEST_LOOM_TEST_WORD"), Error);
    const TemporaryFolder folder;
    const fs::path file = folder.write("word", "of the file\nand more\n");
    ::chmod(file.c_str(), 0644);
    CHECK_THAT(reason([&] { upload::secretFromFile(file); }), Catch::Contains("others may read"));
    ::chmod(file.c_str(), 0600);
    CHECK(upload::secretFromFile(file).text() == "of the file");
    CHECK_THROWS_AS(upload::secretFromFile(folder.path() / "none"), Error);
    ::chmod(folder.write("empty", "\n").c_str(), 0600);
    CHECK_THROWS_AS(upload::secretFromFile(folder.path() / "empty"), Error);
}

TEST_CASE("a folder that is no scene, and pictures that lead out of it, are refused", "[region]") {
    const TemporaryFolder folder;
    CHECK_THAT(reason([&] { upload::cargoIn(folder.path()); }), Catch::Contains("no scene"));
    folder.write("a.scene.xml",
                 "<scene version=\"1\" up=\"Z\" front=\"+X\" name=\"a\"><solid number=\"1\" kind=\"box\" "
                 "size=\"1 1 1\"><look picture=\"../../etc/passwd\"/></solid></scene>");
    CHECK_THAT(reason([&] { upload::cargoIn(folder.path()); }), Catch::Contains("outside its folder"));
    folder.write("b.scene.xml", "<scene/>");
    CHECK_THAT(reason([&] { upload::cargoIn(folder.path()); }), Catch::Contains("several"));
}

} // namespace region_tests
