#include "core/steps/collider_cylinder.h"

#include "core/contact/surfaces.h"
#include "core/geometry/foot.h"
#include "core/geometry/solids.h"
#include "core/steps/note_lean.h"

namespace zl::steps {

Model ColliderCylinder::apply(const Model& in, StepContext& context) const {
    const auto bounds = geometry::worldBounds(in);
    if (bounds.empty()) {
        context.note("no collider: the model has no corners");
        return in;
    }
    geometry::Circle circle{{centreX, centreZ}, radius};
    if (around != Around::Numbers) {
        circle = geometry::smallestCircle(geometry::footOf(in, around == Around::Foot ? 0.02 : 1.0).outline);
        circle.radius *= 1 - inset;
    }
    const double whole = bounds.size().y;
    const double tall = height > 0 ? height : low ? std::min(whole, circle.radius / 2) : whole;
    if (!(circle.radius > 0 && tall > 0))
        throw Error("the collider has no volume", std::string(info.id),
                    "Choose another outline, or give radius and height.");
    Model out = in;
    out.colliders = {{"collider", "cylinder",
                      std::make_shared<const Mesh>(geometry::cylinderMesh(
                          {circle.centre.x, bounds.min.y, circle.centre.y}, circle.radius, tall, sides))}};
    context.note(fmt::format("cylinder of {} radius, {} high", context.showLength(circle.radius),
                             context.showLength(tall)));
    noteLean(out.colliders[0], context);
    contact::surfacesOntoBodies(out);
    return out;
}

} // namespace zl::steps
