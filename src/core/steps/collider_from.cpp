#include "core/steps/collider_from.h"

#include "core/contact/surfaces.h"
#include "core/geometry/foot.h"
#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

namespace {

geometry::Bounds boundsOf(const std::vector<Collider>& bodies) {
    geometry::Bounds out;
    for (const Collider& body : bodies) out.add(geometry::meshBounds(*body.mesh, body.placement));
    return out;
}

} // namespace

Model ColliderFrom::apply(const Model& in, StepContext& context) const {
    if (from.name.empty()) {
        context.fellShort("no piece is chosen");
        return in;
    }
    const Companion other = context.input(from);
    if (other.model->colliders.empty()) {
        context.fellShort(fmt::format("{} has no body", other.name));
        return in;
    }
    const auto bounds = geometry::worldBounds(in);
    if (bounds.empty()) {
        context.fellShort("there is nothing that a body could stand for");
        return in;
    }
    Model out = in;
    out.colliders = other.model->colliders;
    const auto body = boundsOf(out.colliders);
    const geometry::Foot foot = geometry::footOf(in);
    const glm::dvec3 under = foot.empty() ? bounds.centre() : glm::dvec3(foot.middle.x, 0, foot.middle.y);
    // About the middle of its bottom, and from there to below the foot.
    const glm::dvec3 middle(body.centre().x, body.min.y, body.centre().z), to(under.x, bounds.min.y, under.z);
    const glm::dmat4 place = glm::translate(glm::dmat4(1.0), to) *
                             glm::scale(glm::dmat4(1.0), {1 - inset, 1, 1 - inset}) *
                             glm::translate(glm::dmat4(1.0), -middle);
    for (Collider& one : out.colliders) {
        Mesh mesh = *one.mesh;
        bringSurfaces(mesh, *other.model, out);
        one.mesh = std::make_shared<const Mesh>(std::move(mesh));
        one.placement = place * one.placement;
    }
    contact::surfacesOntoBodies(out);
    const auto now = boundsOf(out.colliders);
    context.note(fmt::format("the body of {}: {} × {} × {}", other.name, context.showLength(now.size().x),
                             context.showLength(now.size().y), context.showLength(now.size().z)));
    return out;
}

} // namespace zl::steps
