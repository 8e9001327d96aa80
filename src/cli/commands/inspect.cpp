#include "cli/commands/all_commands.h"

#include "core/avatar/keys.h"
#include "core/formats/format.h"
#include "core/geometry/topology.h"
#include "core/geometry/world.h"
#include "core/motion/attached.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <iostream>

namespace zl::cli {

namespace {

class Inspect : public Command {
public:
    std::string name() const override { return "inspect"; }
    std::string help() const override { return "say what a model file holds"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "model file")->required();
        frame_.declare(app);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const Model model = frame_.applied(formats::readModel(file_, progress.between(0, 0.6)));
        progress.report(0.6, "looking at the surface");
        const Mesh mesh = geometry::flattened(model);
        const geometry::Topology topology = geometry::topologyOf(mesh);
        nlohmann::ordered_json out{
            {"format", model.format},
            {"unit", {{"name", model.frame.unit.name}, {"assumed", model.frame.unitAssumed}}},
            {"up", upName(model.frame.up)},
            {"upAssumed", model.frame.upAssumed},
            {"triangles", triangleCount(model)},
            {"vertices", vertexCount(model)},
            {"objects", objectCount(model)},
            {"materials", materialCount(model)},
            {"pictures", nlohmann::ordered_json::array()},
            {"bones", motion::jointsOf(model).size()},
            {"clips", nlohmann::ordered_json::array()},
            {"bounds", toJson(geometry::fileBounds(model))},
            {"boundsMetres", toJson(geometry::worldBounds(model))},
            {"watertight", topology.watertight},
            {"openEdges", topology.openEdges},
            {"nonManifoldEdges", topology.nonManifoldEdges},
            {"disagreeingEdges", topology.disagreeingEdges},
            {"degenerateTriangles", topology.degenerateTriangles},
            {"looseParts", topology.pieces},
            {"dropped", model.dropped},
            {"warnings", model.warnings}};
        for (const auto& image : model.images)
            if (image)
                out["pictures"].push_back({{"name", image->name},
                                           {"width", image->width},
                                           {"height", image->height},
                                           {"bytes", image->encoded.size()}});
        for (const auto& clip : model.clips) out["clips"].push_back(clip->name);
        if (model.avatar) out["avatar"] = avatarOf(model);
        if (json) {
            print(out);
            return Fine;
        }
        const auto size = geometry::fileBounds(model).size(), metres = geometry::worldBounds(model).size();
        std::cout << fmt::format(
            "{}: {}, {}, {}, {}\n", file_, model.format,
            showCount(static_cast<long long>(triangleCount(model)), "triangle", "triangles"),
            showCount(static_cast<long long>(vertexCount(model)), "corner", "corners"),
            showCount(static_cast<long long>(objectCount(model)), "object", "objects"));
        std::cout << fmt::format("  unit       {}{}, {} up{}\n", model.frame.unit.name,
                                 model.frame.unitAssumed ? " (assumed)" : "", upName(model.frame.up),
                                 model.frame.upAssumed ? " (assumed)" : "");
        std::cout << fmt::format("  size       {} × {} × {} in the file; {} m wide, {} m tall, {} m long\n",
                                 showMeasure(size.x), showMeasure(size.y), showMeasure(size.z),
                                 showMeasure(metres.x), showMeasure(metres.y), showMeasure(metres.z));
        std::cout << fmt::format("  materials  {}, pictures {}, bones {}, clips {}\n", materialCount(model),
                                 out["pictures"].size(), motion::jointsOf(model).size(), model.clips.size());
        std::cout << fmt::format(
            "  surface    {}; {} open edges, {} with three or more triangles, {} triangles without area\n",
            topology.watertight ? "watertight" : "not watertight", topology.openEdges,
            topology.nonManifoldEdges, topology.degenerateTriangles);
        if (model.avatar)
            std::cout << fmt::format(
                "  avatar     version {}: {}, {}, {}\n", model.avatar->version,
                showCount(long(model.avatar->bones.size()), "bone", "bones"),
                showCount(long(model.avatar->expressions.size()), "expression", "expressions"),
                showCount(long(model.avatar->springs.size()), "chain swings", "chains swing"));
        for (const auto& text : model.dropped) std::cout << "  dropped    " << text << '\n';
        for (const auto& text : model.warnings) std::cout << "  warning    " << text << '\n';
        return Fine;
    }

private:
    static nlohmann::ordered_json avatarOf(const Model& model) {
        const Avatar& avatar = *model.avatar;
        auto bones = nlohmann::ordered_json::object(), look = nlohmann::ordered_json();
        for (const auto& [role, key] : avatar.bones)
            if (const int node = avatar::nodeOf(model, key); node >= 0)
                bones[role] = model.nodes[std::size_t(node)].name;
        auto expressions = nlohmann::ordered_json::array();
        for (const Expression& e : avatar.expressions) expressions.push_back(e.name);
        if (avatar.lookAt)
            look = {{"type", avatar.lookAt->by == LookAt::By::Bones ? "bone" : "expression"},
                    {"offsetFromHeadBone",
                     {avatar.lookAt->eyes.x, avatar.lookAt->eyes.y, avatar.lookAt->eyes.z}}};
        return {{"version", avatar.version},
                {"bones", std::move(bones)},
                {"expressions", std::move(expressions)},
                {"lookAt", std::move(look)},
                {"springs", avatar.springs.size()},
                {"licence", avatar.licence}};
    }
    static std::size_t materialCount(const Model& model) {
        return static_cast<std::size_t>(
            std::ranges::count_if(usedMaterials(model), [](int m) { return m >= 0; }));
    }

    std::string file_;
    FrameOptions frame_;
};

} // namespace

std::unique_ptr<Command> makeInspect() {
    return std::make_unique<Inspect>();
}

} // namespace zl::cli
