// `parts`: the objects of a model, one a line.
#include "cli/commands/all_commands.h"

#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/model/node_path.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>
#include <set>

namespace zl::cli {

namespace {

class Parts : public Command {
public:
    std::string name() const override { return "parts"; }
    std::string help() const override { return "list a model's objects: counts, centres, materials"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "model file")->required();
        frame_.declare(app);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const Model model = frame_.applied(formats::readModel(file_, progress));
        const auto paths = nodePaths(model);
        const auto world = worldMatrices(model);
        nlohmann::ordered_json out{{"parts", nlohmann::ordered_json::array()}};
        for (const int n : shownNodes(model)) {
            const Mesh& mesh = *model.meshes[std::size_t(model.nodes[std::size_t(n)].mesh)];
            const auto bounds = geometry::meshBounds(mesh, world[std::size_t(n)]);
            const glm::dvec3 centre = bounds.centre(), size = bounds.size(), origin(world[std::size_t(n)][3]);
            std::vector<std::string> materials;
            std::set<int> seen;
            for (const MaterialRun& run : mesh.runs)
                if (run.material >= 0 && seen.insert(run.material).second)
                    materials.push_back(model.materials[std::size_t(run.material)].name);
            out["parts"].push_back({{"name", model.nodes[std::size_t(n)].name},
                                    {"path", paths[std::size_t(n)]},
                                    {"corners", mesh.vertexCount()},
                                    {"triangles", mesh.triangleCount()},
                                    {"centre", {centre.x, centre.y, centre.z}},
                                    {"origin", {origin.x, origin.y, origin.z}},
                                    {"size", {size.x, size.y, size.z}},
                                    {"materials", materials}});
            if (!json)
                std::cout << fmt::format("  {:<28} {:>9} corners {:>9} triangles  at {} {} {} m  {}\n",
                                         paths[std::size_t(n)], mesh.vertexCount(), mesh.triangleCount(),
                                         showMeasure(centre.x), showMeasure(centre.y), showMeasure(centre.z),
                                         fmt::join(materials, ", "));
        }
        if (json) print(out);
        return Fine;
    }

private:
    std::string file_;
    FrameOptions frame_;
};

} // namespace

std::unique_ptr<Command> makeParts() {
    return std::make_unique<Parts>();
}

} // namespace zl::cli
