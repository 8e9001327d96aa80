#include "core/steps/stand_on_floor.h"

#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

Model StandOnFloor::apply(const Model& in, StepContext& context) const {
    const auto bounds = geometry::worldBounds(in);
    if (bounds.empty()) {
        context.note("left where it is: there is nothing to stand");
        return in;
    }
    const double by = lift - bounds.min.y;
    context.note(std::abs(by) < 1e-9 ? "stood there already"
                                     : fmt::format("moved {} by {}", by > 0 ? "up" : "down",
                                                   context.showLength(std::abs(by))));
    return moved(in, glm::translate(glm::dmat4(1.0), {0, by, 0}));
}

} // namespace zl::steps
