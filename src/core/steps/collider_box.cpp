#include "core/steps/collider_box.h"

#include "core/contact/surfaces.h"
#include "core/geometry/foot.h"
#include "core/steps/note_lean.h"
#include "core/geometry/solids.h"

namespace zl::steps {

Model ColliderBox::apply(const Model& in, StepContext& context) const {
    const auto bounds = geometry::worldBounds(in);
    if (bounds.empty()) {
        context.note("no collider: the model has no corners");
        return in;
    }
    glm::dvec3 floor(left, bounds.min.y, back), high(right, bounds.max.y, front);
    if (around != Around::Numbers) {
        const geometry::Bounds box = around == Around::Foot ? geometry::footOf(in).bounds : bounds;
        const glm::dvec3 take = box.size() * (inset / 2);
        floor = {box.min.x + take.x, bounds.min.y, box.min.z + take.z};
        high = {box.max.x - take.x, bounds.max.y, box.max.z - take.z};
    }
    const double narrow = std::min(high.x - floor.x, high.z - floor.z);
    if (height > 0)
        high.y = floor.y + height;
    else if (low)
        high.y = std::min(high.y, floor.y + narrow / 4);
    if (!(high.x > floor.x && high.y > floor.y && high.z > floor.z))
        throw Error("the collider has no volume", std::string(info.id),
                    "Give left below right, back below front and a height, or choose another outline.");
    Model out = in;
    out.colliders = {{"collider", "box", std::make_shared<const Mesh>(geometry::boxMesh(floor, high))}};
    context.note(fmt::format("box of {} × {} × {}", context.showLength(high.x - floor.x),
                             context.showLength(high.y - floor.y), context.showLength(high.z - floor.z)));
    noteLean(out.colliders[0], context);
    contact::surfacesOntoBodies(out);
    return out;
}

} // namespace zl::steps
