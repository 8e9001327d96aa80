#include "standins/table/world.h"

#include <btBulletDynamicsCommon.h>

#include <algorithm>

namespace zl::standins::table {

namespace {

// Bullet's contact handling is tuned for things about one to ten units large; a figure is about one table
// unit, so lengths are multiplied by ten inside. Gravity is a toy's, so that a fall can be followed by eye.
constexpr float inside = 10.0f, gravity = 30.0f, margin = 0.01f, carryHeight = 0.4f;

btVector3 toBullet(const glm::vec3& v) {
    return {v.x * inside, v.y * inside, v.z * inside};
}
Shape boxShape(const glm::vec3& low, const glm::vec3& high) {
    Shape shape;
    for (int i = 0; i < 8; ++i)
        shape.positions.emplace_back(i & 1 ? high.x : low.x, i & 2 ? high.y : low.y, i & 4 ? high.z : low.z);
    shape.indices = {0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4,
                     2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5};
    return shape;
}

} // namespace

struct World::Parts {
    struct Body {
        std::unique_ptr<btRigidBody> body;
        std::unique_ptr<btDefaultMotionState> motion;
        ColliderKind collider;
    };

    btDefaultCollisionConfiguration configuration;
    btCollisionDispatcher dispatcher{&configuration};
    btDbvtBroadphase broadphase;
    btSequentialImpulseConstraintSolver solver;
    btDiscreteDynamicsWorld world{&dispatcher, &broadphase, &solver, &configuration};
    btStaticPlaneShape tableShape{btVector3(0, 1, 0), 0};
    std::unique_ptr<btRigidBody> table;
    Shape own, box;
    std::unique_ptr<btConvexHullShape> ownHull, boxHull;
    btVector3 centre{0, 0, 0}; ///< of mass, in the figure's space: a third of the height up
    std::vector<Body> bodies;
    std::unique_ptr<btPoint2PointConstraint> hold;
    int held = -1;

    btConvexHullShape* hull(ColliderKind kind) const {
        return kind == ColliderKind::Own ? ownHull.get() : boxHull.get();
    }

    std::unique_ptr<btConvexHullShape> makeHull(const Shape& shape) const {
        auto result = std::make_unique<btConvexHullShape>();
        // The margin lies outside the hull; taking it off the corners keeps contacts where the collider is
        // drawn.
        const btVector3 middle = toBullet((shape.low() + shape.high()) * 0.5f);
        const btVector3 half = toBullet((shape.high() - shape.low()) * 0.5f);
        for (const glm::vec3& p : shape.positions) {
            btVector3 v = toBullet(p) - middle;
            for (int k = 0; k < 3; ++k)
                if (half[k] > margin) v[k] *= (half[k] - margin) / half[k];
            result->addPoint(v + middle - centre, false);
        }
        result->recalcLocalAabb();
        result->setMargin(margin);
        return result;
    }
};

World::World(const Figure& figure) : parts_(std::make_unique<Parts>()) {
    Parts& p = *parts_;
    p.world.setGravity({0, -gravity * inside, 0});
    const glm::vec3 low = figure.model.low(), high = figure.model.high();
    p.box = boxShape(low, high);
    p.own = figure.collider ? *figure.collider : p.box;
    const glm::vec3 ownMiddle = (p.own.low() + p.own.high()) * 0.5f;
    p.centre = toBullet({ownMiddle.x, low.y + (high.y - low.y) / 3, ownMiddle.z});
    p.ownHull = p.makeHull(p.own);
    p.boxHull = p.makeHull(p.box);
    p.table =
        std::make_unique<btRigidBody>(btRigidBody::btRigidBodyConstructionInfo(0, nullptr, &p.tableShape));
    p.table->setFriction(0.8f);
    p.world.addRigidBody(p.table.get());
}

World::~World() {
    clear();
}

int World::add(const glm::vec3& place, ColliderKind collider, float tilt, float heading) {
    Parts& p = *parts_;
    btTransform at;
    at.setIdentity();
    at.setRotation(btQuaternion(btVector3(std::cos(heading), 0, std::sin(heading)), tilt));
    at.setOrigin(toBullet(place) + p.centre);
    btVector3 inertia;
    const float mass = 1;
    p.hull(collider)->calculateLocalInertia(mass, inertia);
    auto motion = std::make_unique<btDefaultMotionState>(at);
    auto body = std::make_unique<btRigidBody>(
        btRigidBody::btRigidBodyConstructionInfo(mass, motion.get(), p.hull(collider), inertia));
    body->setFriction(0.6f);
    body->setRestitution(0.1f);
    body->setDamping(0.05f, 0.3f);
    body->setSleepingThresholds(0.3f, 0.3f);
    p.world.addRigidBody(body.get());
    p.bodies.push_back({std::move(body), std::move(motion), collider});
    return static_cast<int>(p.bodies.size()) - 1;
}

void World::clear() {
    release();
    for (auto& body : parts_->bodies) parts_->world.removeRigidBody(body.body.get());
    parts_->bodies.clear();
}

std::size_t World::count() const {
    return parts_->bodies.size();
}
ColliderKind World::colliderOf(int body) const {
    return parts_->bodies.at(body).collider;
}
const Shape& World::colliderShape(ColliderKind kind) const {
    return kind == ColliderKind::Own ? parts_->own : parts_->box;
}

Pose World::pose(int body) const {
    btTransform t = parts_->bodies.at(body).body->getWorldTransform();
    t.setOrigin(t * -parts_->centre); // from the centre of mass to the figure's origin
    float m[16];
    t.getOpenGLMatrix(m);
    Pose pose;
    for (int i = 0; i < 16; ++i) pose.matrix[i / 4][i % 4] = m[i];
    pose.matrix[3] = glm::vec4(glm::vec3(pose.matrix[3]) / inside, 1);
    return pose;
}

void World::push(int body, const glm::vec3& velocity) {
    auto& b = *parts_->bodies.at(body).body;
    b.activate();
    // A push at the top, so that it tips.
    b.setLinearVelocity(toBullet(velocity));
    b.setAngularVelocity(btVector3(velocity.z, 0, -velocity.x) * 1.5f);
}

void World::advance(double seconds) {
    parts_->world.stepSimulation(static_cast<float>(seconds), 64, 1 / 240.0f);
}

bool World::atRest() const {
    return std::ranges::all_of(parts_->bodies, [](const Parts::Body& b) {
        return !b.body->isActive() ||
               (b.body->getLinearVelocity().length() < 0.2f && b.body->getAngularVelocity().length() < 0.2f);
    });
}

bool World::grab(const glm::vec3& from, const glm::vec3& direction) {
    Parts& p = *parts_;
    release();
    const btVector3 start = toBullet(from), end = toBullet(from + direction * 1000.0f);
    btCollisionWorld::ClosestRayResultCallback hit(start, end);
    p.world.rayTest(start, end, hit);
    for (std::size_t i = 0; i < p.bodies.size(); ++i) {
        if (hit.m_collisionObject != p.bodies[i].body.get()) continue;
        p.held = static_cast<int>(i);
        btRigidBody& body = *p.bodies[i].body;
        body.setActivationState(DISABLE_DEACTIVATION);
        // Held above its middle, so that it hangs upright like a piece between two fingers.
        p.hold = std::make_unique<btPoint2PointConstraint>(
            body, btVector3(0, p.hull(p.bodies[i].collider)->getLocalScaling().y() * 6, 0));
        p.hold->m_setting.m_tau = 0.1f;
        p.hold->m_setting.m_impulseClamp = 400;
        body.setDamping(0.9f, 0.95f);
        p.world.addConstraint(p.hold.get());
        carry(from, direction);
        return true;
    }
    return false;
}

void World::carry(const glm::vec3& from, const glm::vec3& direction) {
    Parts& p = *parts_;
    if (!p.hold || direction.y > -0.01f) return;
    const glm::vec3 onTable = from + direction * (from.y / -direction.y);
    const btVector3 pivot = p.hold->getPivotInA();
    p.hold->setPivotB(toBullet(glm::vec3(onTable.x, carryHeight, onTable.z)) + p.centre + pivot);
}

void World::release() {
    Parts& p = *parts_;
    if (!p.hold) return;
    p.world.removeConstraint(p.hold.get());
    p.hold.reset();
    btRigidBody& body = *p.bodies[p.held].body;
    body.forceActivationState(ACTIVE_TAG);
    body.setDamping(0.05f, 0.3f);
    p.held = -1;
}

bool World::holding() const {
    return parts_->hold != nullptr;
}

bool World::touches(double distance, ColliderKind collider) const {
    struct Touch : btCollisionWorld::ContactResultCallback {
        bool any = false;
        btScalar addSingleResult(btManifoldPoint& point, const btCollisionObjectWrapper*, int, int,
                                 const btCollisionObjectWrapper*, int, int) override {
            any |= point.getDistance() <= 0;
            return 0;
        }
    } touch;
    btCollisionObject a, b;
    a.setCollisionShape(parts_->hull(collider));
    b.setCollisionShape(parts_->hull(collider));
    btTransform at;
    at.setIdentity();
    a.setWorldTransform(at);
    at.setOrigin(btVector3(static_cast<float>(distance) * inside, 0, 0));
    b.setWorldTransform(at);
    parts_->world.contactPairTest(&a, &b, touch);
    return touch.any;
}

} // namespace zl::standins::table
