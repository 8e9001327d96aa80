#include "core/steps/weld_and_clean.h"

#include "core/base/words.h"
#include "core/geometry/clean.h"
#include "core/geometry/weld.h"

#include <set>

namespace zl::steps {

Model WeldAndClean::apply(const Model& in, StepContext& context) const {
    Model out = in;
    std::size_t joined = 0, dropped = 0, kept = 0, doubles = 0, turned = 0;
    std::set<int> emptied;
    const auto world = worldMatrices(in);
    std::vector<double> scale(in.meshes.size(),
                              1.0); // mesh units to metres, from the first node that shows it
    for (std::size_t i = in.nodes.size(); i-- > 0;)
        if (in.nodes[i].mesh >= 0)
            scale[in.nodes[i].mesh] = std::cbrt(std::abs(glm::determinant(glm::dmat3(world[i]))));
    for (std::size_t i = 0; i < out.meshes.size(); ++i) {
        const Progress progress = context.progress.between(double(i) / out.meshes.size(),
                                                           double(i + 1) / out.meshes.size(), "welding");
        const Mesh& mesh = *in.meshes[i];
        const auto local = static_cast<float>(scale[i] > 0 ? tolerance / scale[i] : 0);
        auto welded = geometry::weld(mesh, local, progress.between(0, 0.3));
        joined += welded.cornersJoined;
        if (slivers) {
            auto cleaned = geometry::clean(welded.mesh, local, progress.between(0.3, 0.6));
            dropped += cleaned.sliversRemoved, doubles += cleaned.doublesRemoved;
            kept += cleaned.sliversKept;
            welded.mesh = std::move(cleaned.mesh);
        }
        if (winding) {
            auto outward = geometry::faceOutward(welded.mesh, progress.between(0.6, 1));
            turned += outward.turnedOutward + outward.turnedToAgree;
            welded.mesh = std::move(outward.mesh);
        }
        if (welded.mesh.indices.empty() && !mesh.indices.empty()) emptied.insert(static_cast<int>(i));
        out.meshes[i] = std::make_shared<const Mesh>(std::move(welded.mesh));
    }
    context.facts = {{"cornersJoined", joined},
                     {"sliversDropped", dropped},
                     {"doublesDropped", doubles},
                     {"trianglesTurned", turned}};
    std::string text =
        fmt::format("joined {}", showCount(static_cast<long long>(joined), "corner", "corners"));
    if (slivers) {
        text += fmt::format(", dropped {}", showCount(static_cast<long long>(dropped), "sliver", "slivers"));
        text += fmt::format(" and {}", showCount(static_cast<long long>(doubles), "double", "doubles"));
    }
    if (winding)
        text +=
            fmt::format(", turned {}", showCount(static_cast<long long>(turned), "triangle", "triangles"));
    context.note(text);
    std::vector<std::string> names;
    for (const Node& node : in.nodes)
        if (emptied.contains(node.mesh)) names.push_back(node.name);
    if (!names.empty())
        context.note(fmt::format("nothing is left of {}: it was slivers and doubles only", showNames(names)));
    if (kept > 0)
        context.note(fmt::format("{} left: taking them out would only make others",
                                 showCount(static_cast<long long>(kept), "sliver is", "slivers are")));
    return out;
}

} // namespace zl::steps
