#include "core/steps/note_lean.h"

#include "core/geometry/lean.h"

namespace zl::steps {

void noteLean(const Collider& collider, StepContext& context) {
    const auto lean = geometry::leanBeforeFall(*collider.mesh, collider.placement);
    if (!lean) return;
    const double degrees = glm::degrees(*lean);
    context.facts["leanDegrees"] = degrees;
    context.note(degrees > 0 ? fmt::format("may lean {}° before it falls", showNumber(degrees, 0))
                             : std::string("falls by itself"));
}

} // namespace zl::steps
