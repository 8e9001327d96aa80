#include "core/steps/origin.h"

#include "core/geometry/foot.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

Model Origin::apply(const Model& in, StepContext& context) const {
    if (at == At::Stay) return in;
    const auto bounds = geometry::worldBounds(in);
    if (bounds.empty()) {
        context.note("left where it is: the model has no corners");
        return in;
    }
    glm::dvec3 from = point;
    if (at == At::Centre) from = bounds.centre();
    if (at == At::Foot) {
        const geometry::Foot foot = geometry::footOf(in);
        // A model without triangles has no foot; its middle serves.
        const glm::dvec2 middle =
            foot.empty() ? glm::dvec2(bounds.centre().x, bounds.centre().z) : foot.middle;
        from = {middle.x, bounds.min.y, middle.y};
        if (!foot.empty())
            context.note(fmt::format("the foot is {} by {}", context.showLength(foot.width()),
                                     context.showLength(foot.depth())));
    }
    context.note(fmt::format("moved by {}", context.showLength(glm::length(from))));
    return moved(in, glm::translate(glm::dmat4(1.0), -from));
}

} // namespace zl::steps
