#include "core/steps/size.h"

#include "core/base/pattern.h"
#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

Model Size::apply(const Model& in, StepContext& context) const {
    double scale = factor;
    if (way != Way::Factor) {
        geometry::Bounds bounds;
        const NamePatterns wanted(part.patterns);
        geometry::forEachShownMesh(in, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
            if (way == Way::Points || wanted.match(in.nodes[node].name))
                bounds.add(geometry::meshBounds(mesh, toWorld));
        });
        if (bounds.empty() && !part.patterns.empty())
            throw Error(fmt::format("there is no part like \"{}\"", patternsText(part.patterns)),
                        std::string(info.id), "Look at the names on Gather.");
        const glm::dvec3 size = bounds.size();
        const double now = way == Way::Height   ? size.y
                           : way == Way::Width  ? size.x
                           : way == Way::Length ? size.z
                                                : glm::distance(pointA, pointB);
        if (!(now > 0))
            throw Error("the measure to go by is zero on this model", std::string(info.id),
                        "Choose another measure, or a factor.");
        scale = measure / now;
    }
    context.note(fmt::format("scaled by {}", showMeasure(scale)));
    return moved(in, glm::scale(glm::dmat4(1.0), glm::dvec3(scale)));
}

} // namespace zl::steps
