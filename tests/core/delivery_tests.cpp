// What is delivered, as the stand-ins' own readers see it.
#include "core/base/file_set.h"
#include "core/deliver/placed_for.h"
#include "core/project/build_all.h"
#include "core/texture/picture_file.h"
#include "standins/level/level_file.h"
#include "standins/level/level_arena.h"
#include "standins/site/glb_file.h"
#include "standins/site/pack.h"
#include "standins/site/site_arena.h"
#include "standins/world/obj_file.h"
#include "standins/world/collada_file.h"
#include "standins/yard/yard_arena.h"
#include "support/sheets.h"
#include "support/random_tree.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;
using standins::Message;

namespace {

/// A 1 m cube on the floor with a nose of 0.1 m in front, known to face +Z.
Model cube() {
    Mesh mesh = geometry::boxMesh({-0.5, 0, -0.5}, {0.5, 1, 0.5});
    const Mesh nose = geometry::boxMesh({-0.05, 0.45, 0.5}, {0.05, 0.55, 0.6});
    const auto shift = std::uint32_t(mesh.positions.size());
    mesh.positions.insert(mesh.positions.end(), nose.positions.begin(), nose.positions.end());
    for (const auto i : nose.indices) mesh.indices.push_back(i + shift);
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    Model model = shapes::modelOf(mesh, "cube");
    model.headingKnown = true;
    return model;
}

struct Read {
    glm::vec3 low{1e30f}, high{-1e30f};
    void add(const standins::world::Shape& shape) {
        low = glm::min(low, shape.low());
        high = glm::max(high, shape.high());
    }
};

nlohmann::json paramsOf(const std::string& format) {
    return format.empty() ? nlohmann::json::object() : nlohmann::json{{"format", format}};
}

/// What the platform's stand-in reads of the delivered cube, in the platform's own axes and units.
Read delivered(const std::string& platform, const std::string& format, const TemporaryFolder& folder) {
    const auto own = sheet(platform);
    const auto files = deliver::deliverableFor(*own, paramsOf(format))->make(cube(), *own, {"cube"}, {});
    writeAllOrNone(folder.path(), files);
    Read read;
    for (const auto& file : files) {
        if (file.name.ends_with(".lamplevel"))
            for (const auto& object : standins::level::readLevelFile(file.bytes).objects)
                read.add(object.shape);
        if (file.name.ends_with(".dae"))
            for (const auto& part : standins::world::readColladaFile(file.bytes).parts) read.add(part.shape);
        if (file.name.ends_with(".obj") && file.name.find("collider") == std::string::npos)
            read.add(standins::world::readObjFile(folder / file.name).shape);
        if (file.name.ends_with(".glb")) {
            auto shape = standins::site::readGlbFile(file.bytes).shape;
            for (glm::vec3& p : shape.positions) p *= 4.0f; // the site's importer
            read.add(shape);
        }
    }
    return read;
}

std::string messages(const standins::TryReport& report) {
    std::string all;
    for (const auto& message : report.messages)
        all += message.file + ": " + message.text + " (" + message.detail + ")\n";
    return all;
}

/// A truck of two boxes that fits the yard.
Model truck() {
    Model model = shapes::box({-1.1, 0, -2}, {1.1, 1.5, 2});
    model.nodes[0].name = "body";
    model.headingKnown = true;
    return model;
}

void writeDelivery(const TemporaryFolder& folder, const std::string& platform, const Model& model,
                   const std::string& format = {}) {
    const auto own = sheet(platform);
    writeAllOrNone(
        folder.path(),
        deliver::deliverableFor(*own, paramsOf(format))->make(model, *own, {"thing", "by Odd Fennel"}, {}));
}

} // namespace

TEST_CASE("a cube of 1 m reads back at its closed-form size, front and floor on every platform") {
    TemporaryFolder folder;
    struct Case {
        const char *platform, *format;
        float unitsPerMetre, figure;
        int upAxis, frontAxis; // of the platform
    };
    const Case c = GENERATE(Case{"hearthboard", "", 40, 1.28f, 1, 2}, Case{"lampwright", "", 40, 72, 2, 0},
                            Case{"playmeadow", "glb", 4, 6, 1, 2}, Case{"playmeadow", "obj", 4, 6, 1, 2},
                            Case{"mudhaul", "", 10, 17.8f, 1, 0});
    INFO(c.platform << " " << c.format);
    const Read read = delivered(c.platform, c.format, folder);
    CHECK(read.high[c.upAxis] - read.low[c.upAxis] == Approx(c.unitsPerMetre).epsilon(1e-6));
    CHECK(read.low[c.upAxis] == Approx(0).margin(1e-6));
    // The nose sticks out by a tenth towards the front, and nowhere else.
    CHECK(read.high[c.frontAxis] == Approx(0.6f * c.unitsPerMetre).epsilon(1e-6));
    CHECK(read.low[c.frontAxis] == Approx(-0.5f * c.unitsPerMetre).epsilon(1e-6));
    const int side = 3 - c.upAxis - c.frontAxis;
    CHECK(read.high[side] == Approx(0.5f * c.unitsPerMetre).epsilon(1e-6));
    CHECK(sheet(c.platform)->figureHeight == Approx(c.figure));
    // Beside the figure: metres in a cube over metres in a figure.
    CHECK((read.high[c.upAxis] - read.low[c.upAxis]) / c.figure ==
          Approx(1.0 / sheet(c.platform)->figureMetres()).epsilon(1e-5));
}

TEST_CASE("platforms that are not delivered to yet convert by the same closed form") {
    const auto [id, perMetre, up, front] =
        GENERATE(table<const char*, double, const char*, const char*>({{"skerry", 100, "Z", "+X"},
                                                                       {"culvert", 50, "Z", "+X"},
                                                                       {"portcalder", 1, "Z", "+Y"},
                                                                       {"commonmoor", 1, "Z", "+X"}}));
    const auto own = sheet(id);
    const auto bounds = geometry::worldBounds(deliver::bakedFor(*own, cube()));
    const auto axis = [](const char* name) { return name[std::strlen(name) - 1] - 'X'; };
    CHECK(bounds.max[axis(up)] == Approx(perMetre));
    CHECK(bounds.min[axis(up)] == Approx(0).margin(1e-6));
    CHECK(bounds.max[axis(front)] == Approx(0.6 * perMetre));
    CHECK(bounds.min[axis(front)] == Approx(-0.5 * perMetre));
}

TEST_CASE("the yard refuses transforms, other units, wide trucks and floating ones") {
    TemporaryFolder folder;
    writeDelivery(folder, "mudhaul", truck());
    const auto fine = standins::yard::tryFolder(folder.path());
    INFO(messages(fine));
    REQUIRE(fine.accepted);
    CHECK(fine.tests["width"] == 22.0);
    CHECK(fine.tests["length"] == 40.0);
    CHECK(fine.tests["leftAtTheGate"] == 3.0);
    const std::string dae = readText(folder / "thing.dae");
    const auto refusedWith = [&](const std::string& from, const std::string& to, const std::string& words) {
        std::string changed = dae;
        REQUIRE(changed.find(from) != std::string::npos);
        changed.replace(changed.find(from), from.size(), to);
        writeFile(folder / "thing.dae", changed);
        const auto report = standins::yard::tryFolder(folder.path());
        INFO(messages(report));
        CHECK_FALSE(report.accepted);
        CHECK(messages(report).find(words) != std::string::npos);
    };
    refusedWith("meter=\"0.1\"", "meter=\"1\"", "takes 0.1 only");
    refusedWith("Y_UP", "Z_UP", "takes Y_UP only");
    refusedWith("<instance_geometry", "<scale>1 1 2</scale><instance_geometry", "\"body\" first");
    refusedWith("url=\"#mesh-0\"", "url=\"#mesh-9\"", "is not there");
    refusedWith("</COLLADA>", "", "not XML");
    const auto refused = [&](const Model& model, const std::string& words) {
        writeDelivery(folder, "mudhaul", model);
        const auto report = standins::yard::tryFolder(folder.path());
        INFO(messages(report));
        CHECK_FALSE(report.accepted);
        CHECK(messages(report).find(words) != std::string::npos);
    };
    refused(moved(truck(), glm::scale(glm::dmat4(1.0), glm::dvec3(1.3))), "3.6 dm too much");
    refused(moved(truck(), glm::scale(glm::dmat4(1.0), glm::dvec3(0.5))), "at least 19 dm");
    refused(moved(truck(), glm::translate(glm::dmat4(1.0), {0.0, 0.2, 0.0})), "above the ground");
    standins::TryReport report;
    CHECK_FALSE(standins::yard::open(folder / "nowhere", report));
    CHECK_FALSE(report.messages.empty());
}

TEST_CASE("the yard's truck drives through the gate and falls when dropped") {
    TemporaryFolder folder;
    writeDelivery(folder, "mudhaul", truck());
    standins::TryReport report;
    const auto arena = standins::yard::open(folder.path(), report);
    REQUIRE(arena);
    const auto front = [&] { return arena->drawn()[0].pose[3].z; };
    CHECK(front() == Approx(0).margin(0.2));
    arena->act("drive");
    bool busy = true;
    for (int i = 0; i < 600 && busy; ++i) busy = arena->advance(1 / 60.0);
    CHECK_FALSE(busy);
    CHECK(front() == Approx(40 + 22).margin(0.5)); // its own length and past the posts
    arena->act("drop");
    for (int i = 0; i < 300; ++i) arena->advance(1 / 60.0);
    CHECK(arena->physics().atRest());
    CHECK(arena->physics().pose(0).matrix[3].y == Approx(0).margin(0.3));
}

TEST_CASE("the level multiplies by 40 itself and checks names, corners, pictures") {
    TemporaryFolder folder;
    Model prop = cube();
    prop.nodes[0].name = "crate_1";
    prop.materials = {{.name = "pine"}};
    auto mesh = std::make_shared<Mesh>(*prop.meshes[0]);
    mesh->runs[0].material = 0;
    mesh->uvSets.push_back(std::vector<glm::vec2>(mesh->vertexCount(), {0.5f, 0.5f}));
    prop.meshes[0] = mesh;
    prop.images = {
        texture::pictureFromBytes("p.png", texture::encodePng({8, 8, std::vector<std::uint8_t>(256, 90)}))};
    prop.materials[0].picture(PictureRole::Colour).image = 0;
    writeDelivery(folder, "lampwright", prop);
    const auto fine = standins::level::tryFolder(folder.path());
    INFO(messages(fine));
    REQUIRE(fine.accepted);
    CHECK(fine.tests["height"] == 40.0);
    CHECK(fine.tests["length"] == 44.0);
    CHECK(fine.tests["figures"].get<double>() == Approx(40.0 / 72).margin(1e-4));
    const auto refused = [&](Model model, const std::string& words) {
        writeDelivery(folder, "lampwright", model);
        const auto report = standins::level::tryFolder(folder.path());
        INFO(messages(report));
        CHECK_FALSE(report.accepted);
        CHECK(messages(report).find(words) != std::string::npos);
    };
    Model named = prop;
    named.nodes[0].name = "Crate 1";
    refused(named, "is no name");
    Model twice = prop;
    twice.nodes.push_back(twice.nodes[0]);
    refused(twice, "stands there twice");
    Model odd = prop;
    odd.images = {
        texture::pictureFromBytes("odd.png", texture::encodePng({6, 8, std::vector<std::uint8_t>(192, 90)}))};
    refused(odd, "sides of 2, 4, 8");
    refused(moved(prop, glm::scale(glm::dmat4(1.0), glm::dvec3(100))),
            "was the scene written in metres?"); // in another unit
    refused(moved(prop, glm::translate(glm::dmat4(1.0), {0.0, 0.5, 0.0})), "above the floor");
    writeDelivery(folder, "lampwright", prop);
    standins::TryReport report;
    const auto arena = standins::level::open(folder.path(), report);
    REQUIRE(arena);
    arena->act("stack");
    for (int i = 0; i < 120; ++i) arena->advance(1 / 60.0);
    CHECK(arena->physics().pose(2).matrix[3].y == Approx(80).margin(1)); // the third stands on two of 40 u
    CHECK(arena->marks().size() == 2);
}

TEST_CASE("the site takes one object a file, waits, refuses, and links pictures when they are there") {
    TemporaryFolder folder;
    Model pack = shapes::box({0, 0, 0}, {1, 1, 1});
    pack.nodes[0].name = "crate";
    pack.nodes.push_back({"barrel", -1, glm::translate(glm::dmat4(1.0), {2.0, 0.0, 0.0}), 0});
    pack.materials = {{.name = "pine"}};
    pack.images = {
        texture::pictureFromBytes("Pine.PNG", texture::encodePng({4, 4, std::vector<std::uint8_t>(64, 90)}))};
    pack.materials[0].picture(PictureRole::Colour).image = 0;
    auto mesh = std::make_shared<Mesh>(*pack.meshes[0]);
    mesh->runs[0].material = 0;
    mesh->uvSets.push_back(std::vector<glm::vec2>(mesh->vertexCount(), {0.5f, 0.5f}));
    pack.meshes[0] = mesh;
    const std::string format = GENERATE("glb", "obj");
    INFO(format);
    writeDelivery(folder, "playmeadow", pack, format);
    CHECK(std::filesystem::exists(folder / "pictures/pine.png"));
    auto report = standins::site::tryFolder(folder.path());
    INFO(messages(report));
    REQUIRE(report.accepted);
    CHECK(report.tests["objects"].size() == 2);
    CHECK(report.tests["objects"][1]["height"] == 4.0);
    // The picture goes missing, lies beside the pack under another case, and is linked.
    std::filesystem::rename(folder / "pictures/pine.png", folder / "PINE.png");
    report = standins::site::tryFolder(folder.path());
    CHECK_FALSE(report.accepted);
    CHECK(report.tests["missingPictures"] == nlohmann::ordered_json::array({"pictures/pine.png"}));
    standins::TryReport again;
    auto arena = standins::site::open(folder.path(), again);
    REQUIRE(arena);
    const auto statuses = [&] {
        std::vector<std::string> out;
        const auto tables = arena->tables();
        for (const auto& row : tables[0].rows) out.push_back(row.values[0]);
        return out;
    };
    CHECK(statuses() == std::vector<std::string>{"uploading", "queued"});
    while (arena->advance(0.1)) {
    }
    CHECK(statuses() == std::vector<std::string>{"waits for its picture", "waits for its picture"});
    CHECK(arena->tables()[1].title == "Missing pictures");
    arena->act("link");
    while (arena->advance(0.1)) {
    }
    CHECK(statuses() == std::vector<std::string>{"passed", "passed"});
    CHECK(arena->drawn().size() == 2);

    // Hostile packs: names that lead out, cut files, no list.
    const auto description = nlohmann::json::parse(readText(folder / "pack.json"));
    auto bad = description;
    bad["objects"][0]["file"] = "../thing.glb";
    writeFile(folder / "pack.json", bad.dump());
    CHECK_FALSE(standins::site::tryFolder(folder.path()).accepted);
    bad = description;
    bad["objects"] = "none";
    writeFile(folder / "pack.json", bad.dump());
    CHECK(standins::site::tryFolder(folder.path()).tests.empty());
    writeFile(folder / "pack.json", description.dump());
    const std::string file = description["objects"][0]["file"];
    const std::string bytes = readText(folder / file);
    writeFile(folder / file, bytes.substr(0, bytes.size() / 2));
    CHECK_FALSE(standins::site::tryFolder(folder.path()).accepted);
}

TEST_CASE("the site refuses wrapped objects and objects with transforms") {
    Model wrapped = shapes::box({0, 0, 0}, {1, 1, 1});
    wrapped.nodes.insert(wrapped.nodes.begin(), Node{"container", -1, glm::dmat4(1.0)});
    wrapped.nodes[1].parent = 0;
    const auto glb = [](const Model& model) { return formats::writeGlb(model, {"x"}, nullptr)[0].bytes; };
    CHECK(standins::site::readGlbFile(glb(wrapped)).nodes == 2);
    Model placed = moved(shapes::box({0, 0, 0}, {1, 1, 1}), glm::translate(glm::dmat4(1.0), {1.0, 0.0, 0.0}));
    CHECK(standins::site::readGlbFile(glb(placed)).carriesTransform);
    CHECK_FALSE(standins::site::readGlbFile("glTF").problem.empty());
    CHECK_FALSE(standins::site::readGlbFile(std::string(100, 'x')).problem.empty());
}

TEST_CASE("building everything is incremental, and failures do not stop the rest") {
    TemporaryFolder folder;
    const Model box = shapes::box({-0.008, 0, -0.008}, {0.008, 0.032, 0.008});
    project::Project fair;
    fair.file = folder / "fair.zestloom";
    for (int i = 0; i < 3; ++i) {
        const std::string name = "piece-" + std::to_string(i);
        writeAllOrNone(folder.path(), formats::writeObj(box, {name}, nullptr));
        fair.pieces.push_back({name,
                               {{name + ".obj", "Mira Quill", "own", project::Permission::OwnWork}},
                               {},
                               {{"hearthboard", {}}}});
    }
    fair.pieces.push_back(
        {"gone", {{"gone.obj", "", "", project::Permission::OwnWork}}, {}, {{"hearthboard", {}}}});
    fair.pieces.push_back(
        {"far too tall",
         {{"piece-0.obj", "", "", project::Permission::NotAllowed}},
         recipe::fromJson({{{"step", "size"}, {"params", {{"by", "factor"}, {"factor", 100}}}}}),
         {{"hearthboard", {}}}});
    const auto sheets = platform::loadSheets();
    using Outcome = project::BuiltCrossing::Outcome;
    const auto run = [&] {
        project::SourceCache sources;
        project::BuildAllOptions options;
        options.out = folder / "out";
        options.jobs = 3;
        return project::buildAll(fair, sheets, sources, options);
    };
    auto results = run();
    REQUIRE(results.size() == 5);
    for (int i = 0; i < 3; ++i) CHECK(results[std::size_t(i)].outcome == Outcome::Built);
    CHECK(results[3].outcome == Outcome::Failed);
    CHECK(results[3].words.find("gone.obj") != std::string::npos);
    CHECK(results[4].outcome == Outcome::DoesNotFit);
    CHECK(results[4].warnings.size() == 1);
    CHECK(std::filesystem::exists(folder / "out/hearthboard/piece-1/piece-1.obj"));
    results = run();
    for (int i = 0; i < 3; ++i) CHECK(results[std::size_t(i)].outcome == Outcome::Unchanged);
    CHECK(results[0].files.size() == 2);
    // A changed source, a changed recipe, a file that went missing: each rebuilds its own crossing only.
    writeAllOrNone(folder.path(), formats::writeObj(moved(box, glm::scale(glm::dmat4(1.0), glm::dvec3(1.1))),
                                                    {"piece-0"}, nullptr));
    fair.pieces[1].crossings[0].deliver["finish"] = "gloss";
    std::filesystem::remove(folder / "out/hearthboard/piece-2/piece-2.obj");
    results = run();
    for (int i = 0; i < 3; ++i) CHECK(results[std::size_t(i)].outcome == Outcome::Built);
    for (int i = 0; i < 3; ++i) CHECK(run()[std::size_t(i)].outcome == Outcome::Unchanged);
    // Names that differ only by case would be written over each other.
    fair.pieces[1].name = "PIECE-0";
    results = run();
    CHECK(results[0].outcome == Outcome::Unchanged);
    CHECK(results[1].outcome == Outcome::Failed);
    CHECK(results[2].outcome == Outcome::Unchanged);
}

TEST_CASE("the build file names every crossing with its inputs, safely quoted") {
    project::Project fair;
    fair.file = "/fair ground/it's.zestloom";
    fair.pieces.push_back({"Tide $bell",
                           {{"bell: one.stl", "", "", project::Permission::OwnWork}},
                           {},
                           {{"hearthboard", {}}, {"culvert", {}}}});
    auto sheets = platform::loadSheets();
    for (auto& one : sheets)
        if (one->id == "culvert") {
            platform::Sheet nothing = *one;
            nothing.deliverable.clear();
            one = std::make_shared<const platform::Sheet>(nothing);
        }
    const std::string text =
        project::ninjaFile(fair, sheets, {"/out", 0, {}, {}}, "/bin/loom");
    CHECK(text.find("builddir = /out/.zest-loom\n") != std::string::npos);
    CHECK(text.find("project = '/fair ground/it'\\''s.zestloom'") != std::string::npos);
    CHECK(text.find("piece = 'Tide $$bell'") != std::string::npos);
    CHECK(text.find("/fair$ ground/bell$:$ one.stl") != std::string::npos);
    std::size_t edges = 0;
    for (std::size_t at = 0; (at = text.find("\nbuild ", at)) != std::string::npos; ++at) ++edges;
    CHECK(edges == 1); // nothing is delivered for that Culvert
}
