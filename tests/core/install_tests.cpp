// Deliveries put into a game's own folder and taken out again: all or nothing, and to the last byte.
#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/install/install.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <csignal>
#include <map>
#include <random>
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

using namespace zl;
namespace fs = std::filesystem;

namespace {

using Tree = std::map<std::string, std::string>;

Tree treeOf(const fs::path& folder) {
    Tree out;
    for (const auto& entry : fs::recursive_directory_iterator(folder)) {
        const std::string name = entry.path().lexically_relative(folder).generic_string();
        out[entry.is_directory() ? name + "/" : name] =
            entry.is_regular_file() && !entry.is_symlink() ? readText(entry.path()) : "";
    }
    return out;
}

/// A delivered car, and a game that has one of that name and another one.
struct Scene {
    TemporaryFolder folder;
    fs::path delivered = folder / "delivered", game = folder / "game";

    Scene() {
        deliver("1");
        writeAllOrNone(game, {{"game.txt", "somebody's"},
                              {"cars/quick/quick.glb", "old model"},
                              {"cars/quick/quick.car.json", "{}"},
                              {"cars/quick/skins/wheel.png", "old picture"},
                              {"cars/other/other.glb", "another's"}});
    }
    void deliver(const std::string& version, std::vector<OutFile> more = {}) {
        std::error_code error;
        fs::remove_all(delivered, error);
        more.push_back({"quick.car.json", R"({"format":"race-car","version":1,"model":"quick.glb"})"});
        more.push_back({"quick.glb", "model " + version});
        more.push_back({"skins/rim.png", "picture " + version});
        writeAllOrNone(delivered, more);
    }
    void put(const std::string& name, const std::string& bytes) const { writeFile(game / name, bytes); }
};

std::string firstProblem(const install::Plan& plan) {
    return plan.problems.empty() ? "" : plan.problems[0];
}

} // namespace

TEST_CASE("an installation keeps the original as an entry of its own and comes out again to the byte") {
    const Scene scene;
    const Tree before = treeOf(scene.game);
    const auto plan = install::planned(scene.delivered, scene.game);
    CHECK(treeOf(scene.game) == before); // planning touches nothing
    CHECK(plan.problems.empty());
    CHECK(plan.keptAs == "quick-original");
    std::map<std::string, install::Change::Kind> kinds;
    for (const auto& change : plan.changes) kinds[change.path] = change.kind;
    using Kind = install::Change::Kind;
    CHECK(kinds == std::map<std::string, Kind>{{"cars/quick/quick.car.json", Kind::Replaced},
                                               {"cars/quick/quick.glb", Kind::Replaced},
                                               {"cars/quick/skins/rim.png", Kind::Added},
                                               {"cars/quick/skins/wheel.png", Kind::Removed},
                                               {"cars/quick-original/quick.car.json", Kind::Kept},
                                               {"cars/quick-original/quick.glb", Kind::Kept},
                                               {"cars/quick-original/skins/wheel.png", Kind::Kept}});
    install::install(scene.delivered, scene.game);
    Tree now = treeOf(scene.game);
    CHECK(now.at("cars/quick/quick.glb") == "model 1");
    CHECK(now.at("cars/quick-original/skins/wheel.png") == "old picture");
    CHECK_FALSE(now.contains("cars/quick/skins/wheel.png"));
    REQUIRE(install::installed(scene.game).size() == 1);
    CHECK(install::installed(scene.game)[0].keptAs == "quick-original");
    install::takeOut(scene.game, "quick");
    CHECK(treeOf(scene.game) == before);
    CHECK(install::installed(scene.game).empty());
    CHECK_THROWS_WITH(install::takeOut(scene.game, "quick"), Catch::Contains("nothing called"));
}

TEST_CASE("a newer delivery takes the place of the last one and the first original stays kept") {
    Scene scene;
    const Tree before = treeOf(scene.game);
    scene.deliver("1", {{"preview.png", "seen"}});
    install::install(scene.delivered, scene.game, {.keepAs = "quick-of-old"});
    scene.deliver("2");
    const auto plan = install::install(scene.delivered, scene.game, {.keepAs = "never-used"});
    CHECK(plan.keptAs == "quick-of-old");
    const Tree now = treeOf(scene.game);
    CHECK(now.at("cars/quick/skins/rim.png") == "picture 2");
    CHECK_FALSE(now.contains("cars/quick/preview.png"));
    CHECK(now.at("cars/quick-of-old/quick.glb") == "old model");
    CHECK_FALSE(now.contains("cars/never-used/"));
    install::takeOut(scene.game, "quick");
    CHECK(treeOf(scene.game) == before);
}

TEST_CASE("where the game had none, taking out leaves none") {
    Scene scene;
    fs::remove_all(scene.game / "cars/quick");
    const Tree before = treeOf(scene.game);
    CHECK(install::install(scene.delivered, scene.game).keptAs.empty());
    scene.put("cars/quick/best-times.txt", "0:42"); // the game's own, meanwhile
    install::takeOut(scene.game, "quick");
    Tree now = treeOf(scene.game);
    CHECK(now.at("cars/quick/best-times.txt") == "0:42");
    now.erase("cars/quick/best-times.txt"), now.erase("cars/quick/");
    CHECK(now == before);
}

TEST_CASE("what stands in the way is said before the first byte") {
    Scene scene;
    const auto refused = [&](const install::Wishes& wishes = {}) {
        const Tree before = treeOf(scene.game);
        const auto plan = install::planned(scene.delivered, scene.game, wishes);
        CHECK_THROWS_AS(install::install(scene.delivered, scene.game, wishes), Refused);
        CHECK(treeOf(scene.game) == before);
        return firstProblem(plan);
    };
    CHECK(refused({.keepAs = "other"}) == "The game has a car \"other\" already");
    fs::create_directory(scene.game / "cars/quick-original"); // of somebody who was interrupted
    CHECK(install::planned(scene.delivered, scene.game).keptAs == "quick-original");
    fs::remove(scene.game / "cars/quick-original");
    CHECK(refused({.keepAs = "Old One"}).find("\"old-one\" is") != std::string::npos);
    CHECK(refused({.keepAs = "../out"}).find("is no name") != std::string::npos);
    ::chmod((scene.game / "cars/quick/quick.glb").c_str(), 0444);
    CHECK(refused() == "cars/quick/quick.glb is read-only");
    ::chmod((scene.game / "cars/quick/quick.glb").c_str(), 0644);
    ::chmod((scene.game / "cars").c_str(), 0555);
    CHECK(refused() == "cars is read-only");
    ::chmod((scene.game / "cars").c_str(), 0755);
    fs::create_directory(scene.game / "cars/Quick");
    CHECK(refused().find("capitals alone") != std::string::npos);
    fs::remove(scene.game / "cars/Quick");
    fs::create_symlink("/etc", scene.game / "cars/quick/skins/elsewhere");
    CHECK(refused().find("leads elsewhere") != std::string::npos);
    fs::remove(scene.game / "cars/quick/skins/elsewhere");
    fs::rename(scene.game / "cars/quick", scene.folder / "away");
    fs::create_directory_symlink(scene.folder / "away", scene.game / "cars/quick");
    CHECK(refused().find("leads elsewhere") != std::string::npos);
}

TEST_CASE("a folder that is no delivery, or no game, is refused with the mend") {
    Scene scene;
    CHECK_THROWS_WITH(install::planned(scene.folder / "none", scene.game), Catch::Contains("no folder"));
    CHECK_THROWS_WITH(install::planned(scene.game, scene.game), Catch::Contains("no delivery"));
    CHECK_THROWS_WITH(install::planned(scene.delivered, scene.folder / "none"), Catch::Contains("no folder"));
    CHECK_THROWS_WITH(install::planned(scene.delivered, scene.delivered), Catch::Contains("\"cars\""));
    CHECK_THROWS_WITH(install::planned(scene.game / "cars/quick", scene.game),
                      Catch::Contains("describes no delivery"));
    scene.put("cars/quick/quick.car.json", R"({"format":"race-car"})");
    CHECK(firstProblem(install::planned(scene.game / "cars/quick", scene.game)).find("own folder") !=
          std::string::npos);
    scene.deliver("1", {{"second.car.json", R"({"format":"race-car"})"}});
    CHECK_THROWS_WITH(install::planned(scene.delivered, scene.game), Catch::Contains("two deliveries"));
    for (const char* text : {"", "[]", "{\"format\":7}", "{\"format\":\"else\"}"}) {
        writeFile(scene.delivered / "quick.car.json", text);
        fs::remove(scene.delivered / "second.car.json");
        CHECK_THROWS_AS(install::planned(scene.delivered, scene.game), Error);
    }
}

TEST_CASE("what others have changed since is not thrown away unasked") {
    const Scene scene;
    const Tree before = treeOf(scene.game);
    install::install(scene.delivered, scene.game);
    scene.put("cars/quick/quick.glb", "tuned by hand");
    for (const auto& plan :
         {install::planned(scene.delivered, scene.game), install::plannedOut(scene.game, "quick")})
        CHECK(firstProblem(plan) == "A file has changed since it was installed: cars/quick/quick.glb");
    CHECK_THROWS_AS(install::takeOut(scene.game, "quick"), Refused);
    CHECK(readText(scene.game / "cars/quick/quick.glb") == "tuned by hand");
    install::takeOut(scene.game, "quick", {.losesChanges = true});
    CHECK(treeOf(scene.game) == before);
    // A kept original that somebody has changed stays; and what cannot be put back is not half put back.
    install::install(scene.delivered, scene.game);
    scene.put("cars/quick-original/mine.txt", "mine");
    install::takeOut(scene.game, "quick");
    CHECK(readText(scene.game / "cars/quick-original/mine.txt") == "mine");
    fs::remove_all(scene.game / "cars/quick-original");
    install::install(scene.delivered, scene.game);
    scene.put("cars/quick-original/quick.glb", "repainted");
    const Tree changed = treeOf(scene.game);
    CHECK_THROWS_WITH(install::takeOut(scene.game, "quick"), Catch::Contains("not as it was kept"));
    CHECK(treeOf(scene.game) == changed);
}

TEST_CASE("a full disk, and a folder that becomes read-only on the way, leave the game as it was") {
    Scene scene;
    scene.deliver("1", {{"skins/large.png", std::string(200'000, 'x')}});
    const Tree before = treeOf(scene.game);
    struct rlimit usual {};
    getrlimit(RLIMIT_FSIZE, &usual);
    std::signal(SIGXFSZ, SIG_IGN);
    const rlimit small{100'000, usual.rlim_max};
    setrlimit(RLIMIT_FSIZE, &small);
    CHECK_THROWS_AS(install::install(scene.delivered, scene.game), Refused);
    setrlimit(RLIMIT_FSIZE, &usual);
    CHECK(treeOf(scene.game) == before);
    // Rights mean nothing to the superuser, so somebody else tries the second.
    const bool root = ::geteuid() == 0;
    if (root) {
        for (const auto& entry : fs::recursive_directory_iterator(scene.folder.path()))
            REQUIRE(::chown(entry.path().c_str(), 65534, 65534) == 0);
        REQUIRE(::chown(scene.folder.path().c_str(), 65534, 65534) == 0);
        REQUIRE(::seteuid(65534) == 0);
    }
    const auto skins = scene.game / "cars/quick/skins";
    const Progress locks(
        [&](double share, std::string_view) {
            if (share >= 0.4) ::chmod(skins.c_str(), 0555);
        },
        nullptr);
    CHECK_THROWS_AS(install::install(scene.delivered, scene.game, {}, locks), Refused);
    ::chmod(skins.c_str(), 0755);
    if (root) REQUIRE(::seteuid(0) == 0);
    CHECK(treeOf(scene.game) == before);
}

TEST_CASE("a record that is broken, or that leads out of the game, undoes nothing") {
    const Scene scene;
    install::install(scene.delivered, scene.game);
    const fs::path file = scene.game / install::journalPath("quick");
    const std::string right = readText(file);
    const auto tried = [&](const std::string& text) {
        writeFile(file, text);
        CHECK_THROWS_AS(install::plannedOut(scene.game, "quick"), Error);
        CHECK(install::installed(scene.game).empty());
    };
    for (const char* text : {"", "{", "[]", "{\"format\":\"installed\",\"version\":2}"}) tried(text);
    for (const char* path : {"../../victim", "/etc/passwd", "cars/../../victim", "", "cars/quick/"}) {
        auto json = parsedJson(right);
        json["files"][path] = "00000000000000ff";
        tried(jsonText(json));
    }
    auto renamed = parsedJson(right);
    renamed["name"] = "other";
    tried(jsonText(renamed));
    CHECK_THROWS_AS(install::plannedOut(scene.game, "../quick"), Error);
    writeFile(file, right);
    CHECK(install::plannedOut(scene.game, "quick").problems.empty());
}

TEST_CASE("whatever is installed in whatever order, taking all out gives the game back") {
    std::mt19937 random(7);
    for (int round = 0; round < 40; ++round) {
        Scene scene;
        const Tree before = treeOf(scene.game);
        const int times = 1 + int(random() % 4);
        for (int i = 0; i < times; ++i) {
            std::vector<OutFile> more;
            for (unsigned f = random() % 6; f-- > 0;) {
                const std::string name =
                    std::vector<std::string>{"a.bin", "skins/b.png", "skins/deep/c.png", "d"}[random() % 4];
                if (std::ranges::find(more, name, &OutFile::name) == more.end())
                    more.push_back({name, std::string(random() % 3, char('a' + random() % 3))});
            }
            scene.deliver(std::to_string(random() % 2), more);
            install::install(scene.delivered, scene.game);
            const Tree own = treeOf(scene.delivered), there = treeOf(scene.game / "cars/quick");
            CHECK(own == there);
        }
        install::takeOut(scene.game, "quick");
        CHECK(treeOf(scene.game) == before);
    }
}

TEST_CASE("a kart takes the place of the file of its name, which is kept beside it, and gives it back") {
    TemporaryFolder folder;
    const fs::path delivered = folder / "delivered", game = folder / "game";
    writeAllOrNone(delivered, {{"kart.fish.kcb", "KCB1 new"}, {"notes.txt", "not part of it"}});
    writeAllOrNone(game, {{"karts/kart.fish.kcb", "KCB1 theirs"},
                          {"karts/kart.eel.kcb", "KCB1 another"},
                          {"karts/kart.fish-original.kcb", "KCB1 taken"},
                          {"karts/readme.txt", "somebody's"}});
    const Tree before = treeOf(game);
    const auto plan = install::install(delivered, game);
    CHECK(plan.name == "fish");
    CHECK(plan.keptAs == "fish-original-2");
    Tree wanted = before;
    wanted["karts/kart.fish.kcb"] = "KCB1 new";
    wanted["karts/kart.fish-original-2.kcb"] = "KCB1 theirs";
    Tree now = treeOf(game);
    std::erase_if(now, [&](const auto& file) { return !file.first.starts_with("karts"); });
    CHECK(now == wanted);
    // A newer one replaces ours alone.
    writeFile(delivered / "kart.fish.kcb", "KCB1 newer");
    CHECK(install::install(delivered, game).changes.size() == 1);
    install::takeOut(game, "fish");
    CHECK(treeOf(game) == before);
    // What only looks like one is none, and of two nobody knows which is meant.
    writeFile(delivered / "kart.fish.kcb", "GIF89a");
    CHECK_THROWS_WITH(install::planned(delivered, game), Catch::Contains("describes no delivery"));
    writeAllOrNone(delivered, {{"kart.fish.kcb", "KCB1 a"}, {"kart.eel.kcb", "KCB1 b"}});
    CHECK_THROWS_WITH(install::planned(delivered, game), Catch::Contains("holds two deliveries"));
    fs::remove(delivered / "kart.eel.kcb");
    fs::remove(delivered / "kart.fish.kcb");
    writeFile(delivered / "kart.eel.kcb", "KCB1 c");
    fs::rename(game / "karts/kart.eel.kcb", game / "karts/kart.EEL.kcb");
    CHECK(firstProblem(install::planned(delivered, game)).find("differs in its capitals alone") !=
          std::string::npos);
    fs::remove(game / "karts/kart.EEL.kcb");
    fs::create_symlink("/etc/hostname", game / "karts/kart.eel.kcb");
    CHECK(firstProblem(install::planned(delivered, game)).find("leads elsewhere") != std::string::npos);
}
