// What docs/performance.md is made of: our work and a peer library's on the same data in the same run.
//   build/release/bin/zest-loom-bench [FOLDER [pictures | motion | worlds | contact | blocks | light]]
// FOLDER (default: a temporary one) receives the test data: a 2.1-million-triangle OBJ with UVs and a
// 0.8-million-triangle binary STL. Peak memory is that of a child process that does nothing else. With
// `pictures`, `motion`, `worlds`, `contact`, `blocks` or `light` only the rows about those are measured.
#include "demo_data.h"
#include "measure.h"

#include "core/base/file_set.h"
#include "core/formats/format.h"
#include "core/geometry/weld.h"
#include "core/project/build_all.h"
#include "core/recipe/recipe.h"

#include <assimp/Importer.hpp>
#include <assimp/postprocess.h>
#include <assimp/scene.h>

using namespace zl;
using bench::Cost;
using bench::costOf;
using bench::middleOfThree;

namespace {

void readThroughPeer(const std::filesystem::path& file, unsigned flags) {
    Assimp::Importer importer;
    benchmark::DoNotOptimize(importer.ReadFile(file.string(), flags));
}

void row(const char* work, Cost ours, Cost peer, const char* wanted) {
    fmt::print(
        "| {} | {:.2f} s, {:.0f} MB | {:.2f} s, {:.0f} MB | {:.1f}× faster, {:.2f}× the memory | {} |\n",
        work, ours.seconds, ours.megabytes, peer.seconds, peer.megabytes, peer.seconds / ours.seconds,
        ours.megabytes / peer.megabytes, wanted);
    std::fflush(stdout);
}

} // namespace

int main(int argc, char** argv) {
    if (argc > 1 && argv[1][0] == '-') {
        fmt::print(stderr, "zest-loom-bench [FOLDER [contact|blocks|pictures|motion|worlds|light]]\n");
        return 2;
    }
    const std::filesystem::path folder = argc > 1
                                             ? std::filesystem::path(argv[1])
                                             : std::filesystem::temp_directory_path() / "zest-loom-bench";
    const char* head = "| work | ours | peer library | ratio | wanted |\n|---|---|---|---|---|\n";
    const std::string_view only = argc > 2 ? argv[2] : "";
    if (!only.empty() && only != "contact" && only != "blocks") {
        fmt::print("{}", head);
        if (only == "pictures") bench::texturingRows();
        if (only == "motion") bench::motionRows();
        if (only == "worlds") bench::worldRows(folder);
        if (only == "light") bench::lightRows();
        return 0;
    }
    const auto obj = folder / "scan.obj", stl = folder / "bell.stl";
    if (!std::filesystem::exists(obj) || !std::filesystem::exists(stl))
        writeAllOrNone(folder, {{"scan.obj", demo::texturedObj(demo::tideBell(std::sqrt(2.1e6 / 789000)),
                                                               "scan.mtl", "bronze")},
                                {"scan.mtl", "newmtl bronze\nKd 1 1 1\n"},
                                {"bell.stl", demo::scannedStl(demo::tideBell(1))}});
    if (only == "contact") {
        bench::contactRows(stl, ZEST_LOOM_SHAPES);
        return 0;
    }
    fmt::print("{}", head);
    if (only == "blocks") {
        bench::blockRows(stl);
        return 0;
    }
    row("read a 2.1 M-triangle OBJ with UVs",
        middleOfThree([&] { benchmark::DoNotOptimize(formats::readModel(obj)); }),
        costOf([&] { readThroughPeer(obj, aiProcess_Triangulate | aiProcess_JoinIdenticalVertices); }),
        "20× faster, half the memory");
    row("read a 0.8 M-triangle binary STL and weld", middleOfThree([&] {
            benchmark::DoNotOptimize(geometry::weld(*formats::readModel(stl).meshes[0], 0));
        }),
        middleOfThree([&] {
            readThroughPeer(stl,
                            aiProcess_Triangulate | aiProcess_JoinIdenticalVertices | aiProcess_DropNormals);
        }),
        "20× faster");

    bench::shapingRows(stl);
    bench::texturingRows();
    bench::motionRows();
    bench::worldRows(folder);
    bench::blockRows(stl);
    bench::lightRows();
    bench::wholeWayRow(stl, std::filesystem::canonical(argv[0]).parent_path() / "zest-loom-cli");

    const Model model = formats::readModel(stl);
    recipe::EvaluationCache cache;
    auto recipe =
        recipe::fromJson({{{"step", "weld-and-clean"}},
                          {{"step", "reduce-triangles"}, {"params", {{"goal", "number"}, {"number", 40000}}}},
                          {{"step", "collider-cylinder"}}});
    const Stopwatch whole;
    recipe::evaluate(model, 1, recipe, nullptr, &cache);
    const double first = whole.seconds();
    recipe[2].params["inset"] = 0.1;
    const Stopwatch again;
    const auto second = recipe::evaluate(model, 1, recipe, nullptr, &cache);
    const double change = again.seconds();
    const int ran =
        int(std::ranges::count_if(second.outcomes, [](const auto& outcome) { return outcome.ran; }));
    fmt::print("| change one parameter of the last step | {:.1f} ms, {} of 3 steps ran | whole recipe: "
               "{:.2f} s | {:.0f}× faster | only that step |\n",
               change * 1000, ran, first, first / change);

    const std::filesystem::path many = folder / "crossings";
    std::filesystem::remove_all(many);
    project::Project project;
    project.file = many / "many.zestloom";
    // A ball of 20 000 triangles, 32 mm tall, to be reduced: small, but work enough to be shared out.
    for (int i = 0; i < 200; ++i) {
        Mesh ball = demo::tideBell(0.16);
        for (glm::vec3& p : ball.positions) p *= 1 + 0.001f * float(i);
        const std::string name = fmt::format("bell-{}", i);
        writeAllOrNone(many, {{name + ".stl", demo::scannedStl(ball)}});
        project.pieces.push_back(
            {name,
             {{name + ".stl", "", "", project::Permission::OwnWork}},
             recipe::fromJson(
                 {{{"step", "unit-and-up"}, {"params", {{"unit", "mm"}, {"up", "z"}}}},
                  {{"step", "size"}, {"params", {{"by", "height"}, {"measure", 0.03}}}},
                  {{"step", "origin"}},
                  {{"step", "weld-and-clean"}},
                  {{"step", "reduce-triangles"}, {"params", {{"goal", "number"}, {"number", 5000}}}},
                  {{"step", "collider-cylinder"}}}),
             {{"hearthboard", {}}}});
    }
    const auto sheets = platform::loadSheets();
    const auto buildOnce = [&](int jobs, const char* out) {
        project::SourceCache sources;
        project::BuildAllOptions options;
        options.out = many / out;
        options.jobs = jobs;
        struct rusage before {
        }, after{};
        ::getrusage(RUSAGE_SELF, &before);
        const Stopwatch watch;
        const auto results = project::buildAll(project, sheets, sources, options);
        const double wall = watch.seconds();
        ::getrusage(RUSAGE_SELF, &after);
        const auto cpu = [](const struct rusage& u) {
            return double(u.ru_utime.tv_sec + u.ru_stime.tv_sec) +
                   1e-6 * double(u.ru_utime.tv_usec + u.ru_stime.tv_usec);
        };
        const auto built = std::ranges::count(results, project::BuiltCrossing::Outcome::Built,
                                              &project::BuiltCrossing::outcome);
        return std::tuple(wall, (cpu(after) - cpu(before)) / wall, built);
    };
    const auto [wall, cores, built] = buildOnce(0, "all");
    const auto [unchanged, ignored, none] = buildOnce(0, "all");
    fmt::print("| build 200 crossings | {:.2f} s, {} built, {:.2f} cores busy | second run, nothing changed: "
               "{:.3f} s, {} built | {:.1f} % of the "
               "first | 1.7 cores, under 5 % |\n",
               wall, built, cores, unchanged, none, 100 * unchanged / wall);
    return ran == 1 && built == 200 && none == 0 ? 0 : 1;
}
