#include "demo_data.h"
#include "measure.h"

#include "core/base/file_set.h"
#include "core/formats/format.h"
#include "core/geometry/deviation.h"
#include "core/geometry/parts.h"
#include "core/geometry/reduce.h"
#include "core/geometry/weld.h"
#include "core/recipe/recipe.h"

#include <meshoptimizer.h>

#include <cfloat>

using namespace zl;

namespace bench {

namespace {

void reduceBare(const Mesh& welded) {
    std::vector<unsigned> out(welded.indices.size());
    out.resize(meshopt_simplify(out.data(), welded.indices.data(), out.size(), &welded.positions[0].x,
                                welded.positions.size(), sizeof(glm::vec3), 40000 * 3, FLT_MAX,
                                meshopt_SimplifyLockBorder, nullptr));
    benchmark::DoNotOptimize(out.data());
}

/// What welding is without any of its care: equal corners found by the library's hash table, and cleaned by
/// nothing.
void weldBare(const Mesh& mesh) {
    std::vector<unsigned> remap(mesh.vertexCount()), indices(mesh.indices.size());
    const std::size_t unique =
        meshopt_generateVertexRemap(remap.data(), mesh.indices.data(), mesh.indices.size(),
                                    &mesh.positions[0].x, mesh.vertexCount(), sizeof(glm::vec3));
    meshopt_remapIndexBuffer(indices.data(), mesh.indices.data(), indices.size(), remap.data());
    std::vector<glm::vec3> positions(unique);
    meshopt_remapVertexBuffer(positions.data(), &mesh.positions[0].x, mesh.vertexCount(), sizeof(glm::vec3),
                              remap.data());
    benchmark::DoNotOptimize(positions.data());
}

/// Tetrahedra that share no corner, in one object.
Model looseParts(int count) {
    Mesh mesh;
    for (int i = 0; i < count; ++i) {
        const glm::vec3 at(float(i % 317) * 3, float(i / 317 % 317) * 3, float(i / 317 / 317) * 3);
        const auto first = std::uint32_t(mesh.positions.size());
        for (const glm::vec3& p : {glm::vec3(0, 0, 0), {1, 0, 0}, {0, 1, 0}, {0, 0, 1}})
            mesh.positions.push_back(at + p);
        for (const std::uint32_t c : {0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2}) mesh.indices.push_back(first + c);
    }
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    Model model;
    model.nodes = {{"grit", -1, glm::dmat4(1.0), 0}};
    model.meshes = {std::make_shared<const Mesh>(std::move(mesh))};
    return model;
}

double stepSeconds(const char* id, const Model& model) {
    const auto step =
        steps::makeStep(id, id == std::string_view("split-parts") ? nlohmann::json{{"by", "loose"}}
                                                                  : nlohmann::json::object());
    return middleSeconds([&] {
        const Progress progress;
        steps::StepContext context{progress};
        benchmark::DoNotOptimize(step->apply(model, context));
    });
}

} // namespace

void shapingRows(const std::filesystem::path& stl) {
    const Model model = formats::readModel(stl);
    const Mesh& exploded = *model.meshes[0];
    const Mesh welded = geometry::weld(exploded, 0).mesh;
    const double bareReduce = middleSeconds([&] { reduceBare(welded); });
    timeRow("reduce 0.8 M → 40 k triangles", middleSeconds([&] {
                benchmark::DoNotOptimize(geometry::reduce(welded, {40000, 0, true}));
            }),
            "bare meshoptimizer", bareReduce, "within 0.65×");
    timeRow("weld and clean 0.8 M triangles", stepSeconds("weld-and-clean", model),
            "meshoptimizer's weld alone", middleSeconds([&] { weldBare(exploded); }), "0.25 s");
    const Mesh reduced = geometry::reduce(welded, {40000, 0, true});
    timeRow("deviation both ways, 480 000 samples",
            middleSeconds([&] { benchmark::DoNotOptimize(geometry::deviationBetween(welded, reduced)); }),
            "bare meshoptimizer's reduction", bareReduce, "0.35 s");
    timeRow("split 100 000 loose parts", stepSeconds("split-parts", looseParts(100000)),
            "bare meshoptimizer's reduction", bareReduce, "0.5 s");
}

void wholeWayRow(const std::filesystem::path& stl, const std::filesystem::path& program) {
    const auto out = stl.parent_path() / "delivered";
    const std::string command =
        fmt::format("'{}' build '{}' --platform hearthboard --suggest --out '{}' > /dev/null",
                    program.string(), stl.string(), out.string());
    const Mesh welded = geometry::weld(*formats::readModel(stl).meshes[0], 0).mesh;
    const double ours = middleSeconds([&] { benchmark::DoNotOptimize(std::system(command.c_str())); });
    timeRow("STL of 0.8 M → all table files with --suggest, whole process", ours,
            "bare meshoptimizer's reduction", middleSeconds([&] { reduceBare(welded); }), "1.6 s, 2.2×");
}

} // namespace bench
