// Faces without area. Each is named, so that a view can light it.
#include "core/platform/rules/all_rules.h"

#include "core/geometry/clean.h"

#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>

#include <algorithm>

namespace zl::platform {

Finding measureSlivers(const Measures& m, const Sheet&, const RuleSpec& rule) {
    std::vector<FaceRef> faces;
    const Model& model = m.model();
    for (int n = 0; n < static_cast<int>(model.nodes.size()); ++n) {
        if (!model.nodes[n].isShown()) continue;
        const Mesh& mesh = *model.meshes[model.nodes[n].mesh];
        tbb::enumerable_thread_specific<std::vector<std::uint32_t>> found;
        tbb::parallel_for(std::size_t(0), mesh.triangleCount(), [&](std::size_t t) {
            if (geometry::isSliver(mesh, t)) found.local().push_back(static_cast<std::uint32_t>(t));
        });
        const std::size_t first = faces.size();
        for (const auto& some : found)
            for (const std::uint32_t t : some) faces.push_back({n, t});
        std::sort(faces.begin() + static_cast<std::ptrdiff_t>(first), faces.end(),
                  [](const FaceRef& a, const FaceRef& b) { return a.triangle < b.triangle; });
    }
    Finding finding =
        atMost(double(faces.size()), rule.limit("most", 0), "face has no area", "faces have no area");
    if (faces.empty()) finding.note = "Every face has an area";
    finding.faces = std::move(faces);
    return finding;
}

} // namespace zl::platform
