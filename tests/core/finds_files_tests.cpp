// What files of other people's making broke, each as small as it can be.
#include "core/base/error.h"
#include "core/model/avatar.h"
#include "core/base/utf8.h"
#include "core/formats/format.h"
#include "core/geometry/clean.h"
#include "core/geometry/parts.h"
#include "core/model/promises.h"
#include "core/project/build_all.h"
#include "core/steps/step.h"
#include "standins/level/level_file.h"
#include "standins/site/glb_file.h"
#include "standins/world/obj_file.h"
#include "standins/world/collada_file.h"
#include "support/finds.h"
#include "support/glb_builder.h"
#include "support/rich_model.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <clocale>
#include <ctime>
#include <fstream>
#include <thread>

using namespace zl;

namespace {

/// Of all processors together, so that other programs do not count.
template <class Work>
double secondsOf(const Work& work) {
    const std::clock_t start = std::clock();
    work();
    return double(std::clock() - start) / CLOCKS_PER_SEC;
}

} // namespace

TEST_CASE("names in old code pages become UTF-8, are said, and end nothing") {
    TemporaryFolder folder;
    folder.write("old.obj", "mtllib old.mtl\no K\xf6rper\nusemtl r\xfc"
                            "ckseite\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    folder.write("old.mtl", "newmtl r\xfc"
                            "ckseite\nKd 1 0 0\nmap_Kd fl\xe4"
                            "che.png\n");
    writeFile(folder / "fläche.png", png(2, 2)); // on the disk it is UTF-8
    const Model model = formats::readModel(folder / "old.obj");
    CHECK(model.nodes[0].name == "Körper");
    CHECK(model.materials[0].name == "rückseite");
    CHECK(model.images.size() == 1);
    CHECK(std::ranges::any_of(model.warnings,
                              [](const auto& text) { return text.find("Latin-1") != text.npos; }));
    CHECK_NOTHROW(nlohmann::json(model.nodes[0].name).dump());
    auto project = projectOf(folder, {{"A", "old.obj"}});
    project::SourceCache sources;
    CHECK_NOTHROW(project::buildAll(project, platform::loadSheets(), sources, {folder / "out", 2, {}, {}}));
    CHECK(isUtf8(shortened(std::string(56, 'x') + "ééé", 57)));
}

TEST_CASE("level text keeps UVs where there are no normals") {
    Model ball = shapes::modelOf(shapes::sphere(8, 6), "ball");
    REQUIRE(ball.meshes[0]->normals.empty());
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), formats::writeLevelText(ball, {.name = "ball"}, nullptr));
    const Model back = formats::readModel(folder / "ball.lamplevel");
    REQUIRE(back.meshes[0]->uvSets.size() == 1);
    CHECK(std::ranges::any_of(back.meshes[0]->uvSets[0], [](const glm::vec2& uv) { return uv.x > 0.5f; }));
}

TEST_CASE("a file that is cut short while it is read is an error or a whole file, never the end") {
    TemporaryFolder folder;
    std::string whole;
    for (int i = 0; i < 200000; ++i) whole += "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -3 -2 -1\n";
    const auto path = folder / "busy.obj";
    writeFile(path, whole);
    std::atomic<bool> done{false};
    std::thread writer([&] {
        while (!done) {
            std::filesystem::resize_file(path, 100);
            std::ofstream(path, std::ios::binary) << whole;
        }
    });
    int read = 0, refused = 0;
    for (int i = 0; i < 12; ++i) {
        try {
            const Model model = formats::readModel(path);
            CHECK(brokenPromise(model) == "");
            ++read;
        } catch (const Error& error) {
            CHECK(error.whole().find("busy.obj") != std::string::npos);
            ++refused;
        }
    }
    done = true;
    writer.join();
    // How often it was whole for long enough, nobody can say; from now on it is.
    CHECK(read + refused == 12);
    CHECK(triangleCount(formats::readModel(path)) == 200000);
}

TEST_CASE("numbers that are none, targets of no entries and strides beyond the file are answered") {
    TemporaryFolder folder;
    folder.write("nan.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt nan inf\nvt 0 1\nf 1/1 2/2 3/2\n");
    const Model model = formats::readModel(folder / "nan.obj");
    CHECK(brokenPromise(model) == "");
    CHECK_FALSE(model.warnings.empty());
    CHECK_NOTHROW(standins::world::readObjFile(folder.write("bare.obj", "mtllib\nusemtl\nv 0 0 0\n")));
    CHECK_NOTHROW(formats::readModel(
        folder.write("far.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -2147483648 -2147483647 1\nf 1 2 3\n")));
    // A GLB whose accessor's stride overflows the check of the site's reader.
    std::string glb = formats::writeGlb(shapes::box({0, 0, 0}, {1, 1, 1}), {"box"}, nullptr)[0].bytes;
    const std::string plain = "\"byteLength\":", with = "\"byteStride\":18446744073709551000,\"byteLength\":";
    const std::size_t views = glb.find("bufferViews");
    const std::size_t at = glb.find(plain, views);
    REQUIRE(at != std::string::npos);
    glb.replace(at, plain.size(), with);
    const auto put = [&](std::size_t where, std::size_t value) {
        const auto word = std::uint32_t(value);
        std::memcpy(&glb[where], &word, 4);
    };
    std::uint32_t json = 0;
    std::memcpy(&json, &glb[12], 4);
    put(8, glb.size()), put(12, json + with.size() - plain.size());
    CHECK_FALSE(standins::site::readGlbFile(glb).problem.empty());
}

TEST_CASE("a small glTF cannot ask for gigabytes") {
    TemporaryFolder folder;
    const std::string greedy =
        R"({"asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0}],
"meshes": [{"primitives": [{"attributes": {"POSITION": 0, "COLOR_0": 1}}]}],
"accessors": [{"componentType": 5126, "count": 60000000, "type": "VEC3"}, {"componentType": 5126, "count": 60000000, "type": "VEC4"}]})";
    try {
        formats::readModel(folder.write("greedy.gltf", greedy));
        FAIL("was read");
    } catch (const Error& error) {
        CHECK(error.whole().find("more memory") != std::string::npos);
    }
}

TEST_CASE(
    "many parts, shared corners, crowded corners, repeated libraries and like names take no square of time") {
    // Twice the work may take three times as long and a little, not four times.
    const auto linear = [](const char* what, const auto& work) {
        INFO(what);
        work(1000);
        const double once = secondsOf([&] { work(8000); }), twice = secondsOf([&] { work(32000); });
        CAPTURE(once, twice);
        CHECK(twice < 9 * once + 0.05);
    };
    TemporaryFolder folder;
    linear("loose parts", [&](int n) {
        Mesh mesh;
        for (int i = 0; i < n; ++i)
            for (const glm::vec3& by : {glm::vec3(0), glm::vec3(0.1f, 0, 0), glm::vec3(0, 0.1f, 0)}) {
                mesh.indices.push_back(std::uint32_t(mesh.positions.size()));
                mesh.positions.push_back(glm::vec3(float(i), 0, 0) + by);
            }
        CHECK(objectCount(geometry::splitObjects(shapes::modelOf(mesh), geometry::SplitBy::LoosePart,
                                                 [](const Node&) { return true; })) == std::size_t(n));
    });
    linear("groups that share a pool of corners", [&](int n) {
        std::string obj;
        for (int i = 0; i < n; ++i) obj += fmt::format("v {} 0 {}\n", i, i % 7);
        for (int i = 0; i < n; ++i)
            obj += fmt::format("g g{}\nf {} {} {}\n", i, 1 + i, n - i, 1 + (i + n / 2) % n);
        formats::readModel(folder.write("pool.obj", obj));
    });
    linear("one corner of many normals", [&](int n) {
        std::string obj = "v 0 0 0\nv 1 0 0\nv 0 1 0\n";
        for (int i = 0; i < n; ++i) obj += fmt::format("vn 0 {} 1\n", i);
        for (int i = 0; i < n; ++i) obj += fmt::format("f 1//{} 2//{} 3//{}\n", i + 1, i + 1, i + 1);
        formats::readModel(folder.write("cone.obj", obj));
    });
    linear("a library named again and again", [&](int n) {
        std::string mtl, obj;
        for (int i = 0; i < 300; ++i) mtl += fmt::format("newmtl m{}\nKd 1 0 0\n", i);
        folder.write("many.mtl", mtl);
        for (int i = 0; i < n; ++i) obj += "mtllib many.mtl\n";
        formats::readModel(folder.write("many.obj", obj + "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"));
    });
    linear("names that are all alike", [&](int n) {
        Model model = shapes::box({0, 0, 0}, {1, 1, 1});
        model.nodes.assign(std::size_t(n), model.nodes[0]);
        ran(model, "rename-parts", {{"find", "*"}, {"become", "same"}, {"legal", true}});
    });
}

TEST_CASE("what is long can be stopped") {
    const std::atomic<bool> stop{true};
    const Progress progress(nullptr, &stop);
    steps::StepContext context{progress, nullptr};
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(30, 20)));
    for (const char* id : {"weld-and-clean", "reduce-triangles", "split-parts"}) {
        INFO(id);
        const nlohmann::json params = std::string_view(id) == "split-parts" ? nlohmann::json{{"by", "loose"}}
                                      : std::string_view(id) == "reduce-triangles"
                                          ? nlohmann::json{{"goal", "number"}, {"number", 50}}
                                          : nlohmann::json::object();
        CHECK_THROWS_AS(steps::makeStep(id, params)->apply(model, context), Cancelled);
    }
}

TEST_CASE("a language with a decimal comma changes no file that is written and none that is read",
          "[locale]") {
    const bool wanted = std::getenv("ZEST_LOOM_COMMA") != nullptr;
    const char* set = std::setlocale(LC_ALL, wanted ? "" : "C");
    REQUIRE(set);
    char probe[16];
    std::snprintf(probe, sizeof probe, "%.1f", 0.5);
    REQUIRE(std::string(probe) == (wanted ? "0,5" : "0.5")); // the language is really in force
    Model model = richModel();
    model.nodes[0].local = glm::translate(glm::dmat4(1.0), {0.125, 0.25, -0.375});
    Avatar avatar; // without which VRM refuses
    avatar.lookAt = LookAt{LookAt::By::Bones, {0.125, 0.5, 0.0625}, {}, {}, {}, {}};
    model.avatar = std::make_shared<const Avatar>(avatar);
    TemporaryFolder folder;
    for (const auto& format : formats::allFormats()) {
        if (!format.write) continue;
        INFO(format.id);
        formats::WriteOptions options{"x", 0.1};
        options = formats::inFrameOf(format, options);
        const auto files = format.write(model, options, nullptr);
        std::setlocale(LC_ALL, "C");
        const auto plain = format.write(model, options, nullptr);
        writeAllOrNone(folder.path(), plain);
        const Model there = formats::readModel(folder / plain[0].name);
        std::setlocale(LC_ALL, wanted ? "" : "C");
        const bool isArchive = format.id == "3mf";
        if (!isArchive) CHECK(files[0].bytes == plain[0].bytes);
        const Model here = formats::readModel(folder / plain[0].name);
        CHECK(here.frame.unit.metres == Approx(there.frame.unit.metres));
        CHECK(glm::length(geometry::worldBounds(here).size() - geometry::worldBounds(there).size()) < 1e-6);
        writeAllOrNone(folder.path(), files);
        CHECK(glm::length(geometry::worldBounds(formats::readModel(folder / files[0].name)).size() -
                          geometry::worldBounds(there).size()) < 1e-6);
    }
    const auto cart = standins::world::readColladaFile(
        formats::writeCollada(model, {.name = "x", .metresPerUnit = 0.1}, nullptr)[0].bytes);
    CHECK(cart.problem == "");
    CHECK(cart.unitMetres == Approx(0.1));
    const auto level = standins::level::readLevelFile(
        formats::writeLevelText(model, {"x", 1, Up::Z, "+X"}, nullptr)[0].bytes);
    CHECK(level.problem == "");
    std::setlocale(LC_ALL, "C");
}

TEST_CASE(
    "a glTF mesh of parts, some with normals, whose indices lead out of it, is read without those faces") {
    TemporaryFolder folder;
    GlbBuilder glb;
    glb.triangle();
    const int normals = glb.floats({0, 0, 1, 0, 0, 1, 0, 0, 1}, 3, "VEC3");
    const auto part = glb.primitive();
    auto other = part;
    other["attributes"]["NORMAL"] = normals;
    other["indices"] =
        glb.values(std::vector<std::uint32_t>{0, 1, 2, 0, 1, 4'000'000'000u}, 5125, 6, "SCALAR");
    auto third = part; // its normals are worked out while the parts are put together
    third["indices"] =
        glb.values(std::vector<std::uint32_t>{2, 1, 0, 0, 3'000'000'000u, 2}, 5125, 6, "SCALAR");
    glb.json["meshes"][0]["primitives"] = {part, other, third};
    const Model model = formats::readModel(folder.write("torn.glb", glb.bytes()));
    CHECK(triangleCount(model) == 3);
    CHECK(brokenPromise(model) == "");
    CHECK_FALSE(model.warnings.empty());
}
