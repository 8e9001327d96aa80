// The shooter engine's compiler: what it takes, and how it says what it does not.
#include "core/deliver/engine_prop.h"
#include "core/model/clothe_bare.h"
#include "standins/stand_in.h"
#include "standins/tunnel/parcel.h"
#include "standins/world/arena.h"
#include "support/ran_step.h"
#include "support/shapes.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;
using nlohmann::json;
using standins::tunnel::compile;

namespace {

/// A gate of wood: two posts and a beam, with pieces.
Model gate() {
    Model out = shapes::box({-1, 0, -0.1}, {-0.8, 2, 0.1});
    for (const auto& [low, high] :
         {std::pair(glm::dvec3(0.8, 0, -0.1), glm::dvec3(1, 2, 0.1)), {{-1, 2, -0.1}, {1, 2.2, 0.1}}}) {
        out.nodes.push_back({"part", -1, glm::dmat4(1), int(out.meshes.size())});
        out.meshes.push_back(std::make_shared<const Mesh>(geometry::boxMesh(low, high)));
    }
    const auto culvert = sheet("culvert");
    out = ranStep(out, "surface-kind", {{"kind", "wood"}}, culvert.get()).model;
    return ranStep(out, "convex-pieces", json::object(), culvert.get()).model;
}

struct Delivered {
    TemporaryFolder folder;
    explicit Delivered(const Model& model) {
        writeAllOrNone(folder.path(),
                       deliver::EngineProp{}.make(model, *sheet("culvert"),
                                                  {.name = "Dock gate", .credit = "Odd Fennel"}, {}));
    }
    std::string text(const char* name) { return readText(folder / name); }
    /// The first complaint once `from` in a file became `to`: "file:line: text".
    std::string saysAfter(const char* name, const std::string& from, const std::string& to) {
        const std::string was = text(name);
        std::string now = was;
        REQUIRE(now.find(from) != std::string::npos);
        now.replace(now.find(from), from.size(), to);
        folder.write(name, now);
        const auto compiled = compile(folder.path());
        folder.write(name, was);
        if (compiled.complaints.empty()) return "compiled";
        const auto& one = compiled.complaints[0];
        return fmt::format("{}:{}: {}", one.file, one.line, one.text);
    }
};

} // namespace

TEST_CASE("a prop compiles, at the engine's size and with its pieces") {
    Delivered gate(::gate());
    const auto compiled = compile(gate.folder.path());
    for (const auto& one : compiled.complaints) INFO(one.text);
    REQUIRE(compiled.isFine());
    const auto& prop = compiled.prop;
    CHECK(prop.name == "dock_gate");
    CHECK(prop.credit == "Odd Fennel");
    CHECK(prop.pieces.size() >= 3);
    for (const auto& piece : prop.pieces) CHECK(piece.surface == "wood");
    glm::vec3 low(1e9f), high(-1e9f);
    for (const auto& part : prop.parts)
        for (const glm::vec3& p : part.shape.positions) low = glm::min(low, p), high = glm::max(high, p);
    CHECK(high.y - low.y == Approx(110)); // 2.2 m in units of 2 cm
    CHECK(high.x - low.x == Approx(100));
    const auto report = standins::standInNamed("tunnel")->tryFolder(gate.folder.path());
    CHECK(report.accepted);
    CHECK(report.tests["balls"]["hit"] == report.tests["balls"]["aimed"]);
    // Seen from ahead two of three balls fly through the gate: its pieces leave the way open.
    CHECK(report.tests["balls"]["early"] == 0);
    const auto back = standins::tunnel::fromParcel(standins::tunnel::toParcel(compiled));
    CHECK(back.prop.pieces.size() == prop.pieces.size());
    CHECK_THROWS(standins::tunnel::fromParcel(standins::tunnel::toParcel(compiled).substr(0, 90)));
}

TEST_CASE("names that no script takes are made such, and a credit stays one line") {
    Model odd = ::gate();
    odd.materials.resize(2);
    odd.materials[0].name = "plain", odd.materials[1].name = "Plain"; // as faces without one are called
    auto worn = std::make_shared<Mesh>(*odd.meshes[0]);
    worn->runs = {{0, 6, 0}, {6, std::uint32_t(worn->triangleCount()) - 6, 1}};
    odd.meshes[0] = std::move(worn);
    TemporaryFolder folder;
    writeAllOrNone(
        folder.path(),
        deliver::EngineProp{}.make(odd, *sheet("culvert"),
                                   {.name = std::string(300, 'x'), .credit = "Odd Fennel\nmaterial !"}, {}));
    const auto compiled = compile(folder.path());
    for (const auto& one : compiled.complaints) UNSCOPED_INFO(one.text);
    CHECK(compiled.complaints.empty());
}

TEST_CASE("one hull around a gate stops balls before anything that is seen") {
    Model closed = gate();
    closed =
        ranStep(closed, "convex-pieces", {{"goal", "number"}, {"pieces", 1}}, sheet("culvert").get()).model;
    Delivered one(closed);
    const auto report = standins::standInNamed("tunnel")->tryFolder(one.folder.path());
    REQUIRE(report.accepted);
    CHECK(report.tests["pieces"] == 1);
    CHECK(report.tests["balls"]["early"].get<int>() > 300); // of 2 × 1024 from ahead and behind
}

TEST_CASE("the compiler complains with file and line") {
    Delivered gate(::gate());
    CHECK(gate.saysAfter("dock_gate.body.txt", "surface wood", "surface wod") ==
          "dock_gate.body.txt:2: no surface \"wod\"; there are metal wood stone cloth glass water_thin");
    CHECK(gate.saysAfter("dock_gate.prop.txt", "prop dock_gate", "prop Dock-gate")
              .starts_with("dock_gate.prop.txt:1: bad prop name \"Dock-gate\""));
    CHECK(gate.saysAfter("dock_gate.prop.txt", "unit 0.02", "unit 0.01") ==
          "dock_gate.prop.txt:2: unit is 0.01, the engine's is 0.02");
    CHECK(gate.saysAfter("dock_gate.prop.txt", "mesh dock_gate.mesh.txt", "mesh ../secret") ==
          "../secret:0: leads out of the folder");
    CHECK(gate.saysAfter("dock_gate.prop.txt", "material plain", "material") ==
          "dock_gate.prop.txt:6: unknown directive \"material\"");
    CHECK(gate.saysAfter("dock_gate.mesh.txt", "corner ", "corner one ") ==
          "dock_gate.mesh.txt:2: \"one\" is not a number");
    CHECK(gate.saysAfter("dock_gate.mesh.txt", " plain\n", " steel\n")
              .ends_with("material \"steel\" was never defined"));
    CHECK(gate.saysAfter("dock_gate.level.txt", "place dock_gate", "place gate") ==
          "dock_gate.level.txt:2: prop \"gate\" was never compiled");
    CHECK(gate.saysAfter("dock_gate.body.txt", "body 1", "body 2") ==
          "dock_gate.body.txt:1: \"body 1\" expected");

    std::filesystem::remove(gate.folder / "dock_gate.level.txt");
    CHECK(compile(gate.folder.path()).complaints[0].text == "cannot open file");
    std::filesystem::remove(gate.folder / "dock_gate.prop.txt");
    CHECK(compile(gate.folder.path()).complaints[0].text == "no script in the folder");
}

TEST_CASE("a piece that is not convex is refused, and so are too many") {
    Delivered gate(::gate());
    // A wedge with a corner pushed in: its inside would be filled.
    std::string body = "body 1\npiece surface wood\n";
    for (const char* corner : {"0 0 0", "10 0 0", "0 10 0", "0 0 10", "1 1 1"})
        body += fmt::format("corner {}\n", corner);
    for (const char* face : {"0 2 1", "0 1 3", "0 3 2", "1 2 4", "2 3 4", "3 1 4"})
        body += fmt::format("face {}\n", face);
    gate.folder.write("dock_gate.body.txt", body);
    CHECK(compile(gate.folder.path())
              .complaints[0]
              .text.starts_with("piece 1 is not convex: a corner stands "));
    std::string many = "body 1\n";
    for (int i = 0; i < 11; ++i) {
        many += "piece surface wood\n";
        for (const char* corner : {"0 0 0", "10 0 0", "0 10 0", "0 0 10"})
            many += fmt::format("corner {}\n", corner);
        for (const char* face : {"0 2 1", "0 1 3", "0 3 2", "1 2 3"}) many += fmt::format("face {}\n", face);
    }
    gate.folder.write("dock_gate.body.txt", many);
    const auto over = compile(gate.folder.path());
    REQUIRE(over.complaints.size() == 1);
    CHECK(over.complaints[0].text == "more than 10 pieces");
}

TEST_CASE("whatever is in its files, the compiler comes to an end") {
    Delivered gate(::gate());
    std::mt19937 random(8);
    const char* names[] = {"dock_gate.prop.txt", "dock_gate.mesh.txt", "dock_gate.body.txt",
                           "dock_gate.level.txt"};
    for (int i = 0; i < 1200; ++i) {
        const char* name = names[random() % 4];
        const std::string was = gate.text(name);
        std::string bad = was;
        if (i % 4 == 0) bad.resize(random() % bad.size());
        for (unsigned k = 0; k < 1 + random() % 6 && !bad.empty(); ++k)
            bad[random() % bad.size()] = char(random());
        gate.folder.write(name, bad);
        standins::tunnel::compiledHere(gate.folder.path());
        gate.folder.write(name, was);
    }
    CHECK(compile(gate.folder.path()).isFine());
}

TEST_CASE("each crate of the test map is heard as it is stepped on") {
    Delivered gate(::gate());
    standins::TryReport report;
    const auto map = standins::standInNamed("tunnel")->open(gate.folder.path(), report);
    REQUIRE(map);
    CHECK(map->isHeard());
    map->advance(1);
    CHECK(map->takeHeard().empty()); // nobody walks
    map->act("walk");
    std::vector<std::string> heard;
    unsigned last = 0;
    for (int i = 0; i < 200; ++i) {
        map->advance(0.05);
        const auto now = map->takeHeard();
        CHECK(now.size() <= 1); // a step at a time
        for (const auto& one : now) {
            heard.push_back(one.sound);
            CHECK(one.step > last);
            last = one.step;
        }
    }
    // Four steps over the stone floor, then two on each of the six crates.
    const std::vector<std::string> wanted{"dry knock", "dry knock", "dry knock", "dry knock"};
    REQUIRE(heard.size() == 16);
    CHECK(std::equal(wanted.begin(), wanted.end(), heard.begin()));
    const auto culvert = sheet("culvert");
    for (const auto& kind : culvert->touch.surfaces)
        CHECK(std::ranges::count(heard, kind.sound) == (kind.name == "stone" ? 6 : 2));
}

TEST_CASE("bare faces wear a material whose name and file name nobody else has") {
    Model box = shapes::box({0, 0, 0}, {1, 1, 1});
    box.materials.resize(1);
    box.materials[0].name = " Dock gate ";
    REQUIRE(clotheBare(box, "dock-gate"));
    CHECK(box.materials[1].name == "dock-gate-2");
    CHECK(box.meshes[0]->runs[0].material == 1);
    CHECK_FALSE(clotheBare(box, "dock-gate")); // nothing is bare any more
}
