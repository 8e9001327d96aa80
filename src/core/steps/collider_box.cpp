#include "core/steps/collider_box.h"

#include "core/geometry/foot.h"
#include "core/geometry/solids.h"

namespace zl::steps {

Model ColliderBox::apply(const Model& in, StepContext& context) const {
    const auto bounds = geometry::worldBounds(in);
    if (bounds.empty()) {
        context.note("no collider: the model has no corners");
        return in;
    }
    glm::dvec3 low(left, bounds.min.y, back), high(right, bounds.max.y, front);
    if (around != Around::Numbers) {
        const geometry::Bounds box = around == Around::Foot ? geometry::footOf(in).bounds : bounds;
        const glm::dvec3 take = box.size() * (inset / 2);
        low = {box.min.x + take.x, bounds.min.y, box.min.z + take.z};
        high = {box.max.x - take.x, bounds.max.y, box.max.z - take.z};
    }
    if (height > 0) high.y = low.y + height;
    if (!(high.x > low.x && high.y > low.y && high.z > low.z))
        throw Error("the collider has no volume", std::string(info.id),
                    "Give left below right, back below front and a height, or choose another outline.");
    Model out = in;
    out.colliders = {{"collider", "box", std::make_shared<const Mesh>(geometry::boxMesh(low, high))}};
    context.note(fmt::format("box of {} × {} × {}", context.showLength(high.x - low.x),
                             context.showLength(high.y - low.y), context.showLength(high.z - low.z)));
    return out;
}

} // namespace zl::steps
