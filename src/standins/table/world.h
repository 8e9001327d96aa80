#pragma once
#include "standins/table/figure.h"
#include "standins/world/physics.h"

namespace zl::standins::table {

using world::Pose;

/// Which shape a figure collides with; the numbers are those of the shapes in World.
enum class ColliderKind { Own, DefaultBox };

/// Physics with a figure's own collider and the default box ready to be added.
class World : public world::Physics {
public:
    explicit World(const Figure& figure) : Physics(1.28) { addCollidersOf(figure, *this); }

    static void addCollidersOf(const Figure& figure, world::Physics& physics) {
        const glm::vec3 low = figure.model.low(), high = figure.model.high();
        const Shape box = world::boxShape(low, high), own = figure.collider ? *figure.collider : box;
        physics.addShape(own, own.middleOfMass()); // the weight is the collider's: a low one stands firm
        physics.addShape(box, box.middleOfMass());
    }
    int add(const glm::vec3& place, ColliderKind collider, float tilt = 0, float heading = 0) {
        return Physics::add(static_cast<int>(collider), place, tilt, heading);
    }
    const Shape& colliderShape(ColliderKind kind) const { return shape(static_cast<int>(kind)); }
};

} // namespace zl::standins::table
