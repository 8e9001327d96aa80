#include "standins/world/physics.h"

#include <btBulletDynamicsCommon.h>

#include <algorithm>
#include <cmath>

namespace zl::standins::world {

namespace {

// Bullet's contact handling is tuned for things about one to ten units large, so lengths are scaled inside
// until a figure is this tall. Gravity is a toy's, so that a fall can be followed by eye.
constexpr float figureInside = 12.8f, fall = 300.0f, margin = 0.01f, carryHeight = 4.0f;
constexpr float handSpeed = 60, rightingSpeed = 12;
constexpr int rimGroup = 64; // a collision group that Bullet leaves free

} // namespace

struct Physics::Simulation {
    explicit Simulation(double figure) : inside(figureInside / static_cast<float>(figure)) {}

    struct Held {
        Shape shape;
        btVector3 centre; ///< of mass, in the shape's space, scaled
        std::unique_ptr<btConvexHullShape> hull;
    };
    struct Body {
        std::unique_ptr<btRigidBody> body;
        std::unique_ptr<btDefaultMotionState> motion;
        int shape;
    };

    float inside; ///< scaled length of one unit
    btDefaultCollisionConfiguration configuration;
    btCollisionDispatcher dispatcher{&configuration};
    btDbvtBroadphase broadphase;
    btSequentialImpulseConstraintSolver solver;
    btDiscreteDynamicsWorld world{&dispatcher, &broadphase, &solver, &configuration};
    btStaticPlaneShape floorShape{btVector3(0, 1, 0), 0};
    std::unique_ptr<btRigidBody> floor;
    struct Wall {
        std::unique_ptr<btStaticPlaneShape> shape;
        std::unique_ptr<btRigidBody> body;
    };
    std::vector<Wall> rim;
    glm::vec2 reach{1e6f};
    struct Fixed {
        Shape shape;
        glm::mat4 pose;
        std::unique_ptr<btTriangleMesh> triangles; ///< of a surface
        std::unique_ptr<btCollisionShape> form;
        std::unique_ptr<btRigidBody> body;
    };
    std::vector<Fixed> fixed;
    std::vector<Held> shapes;
    std::vector<Body> bodies;
    std::unique_ptr<btPoint2PointConstraint> hold;
    btVector3 target; ///< where the hand is going; it does not jump there, or what it holds would tumble
    int held = -1;

    btVector3 scaled(const glm::vec3& v) const { return {v.x * inside, v.y * inside, v.z * inside}; }

    std::unique_ptr<btConvexHullShape> makeHull(const Shape& shape, const btVector3& centre) const {
        auto result = std::make_unique<btConvexHullShape>();
        if (shape.positions.empty()) result->addPoint(-centre, false); // a hull without corners is not for it
        // The margin lies outside the hull; taking it off the corners keeps contacts where the shape is
        // drawn.
        const btVector3 middle = scaled((shape.low() + shape.high()) * 0.5f);
        const btVector3 half = scaled((shape.high() - shape.low()) * 0.5f);
        for (const glm::vec3& p : shape.positions) {
            btVector3 v = scaled(p) - middle;
            for (int k = 0; k < 3; ++k)
                if (half[k] > margin) v[k] *= (half[k] - margin) / half[k];
            result->addPoint(v + middle - centre, false);
        }
        result->recalcLocalAabb();
        // A hull of thousands of corners makes every contact slow; its outline needs a few hundred at most.
        if (result->getNumPoints() > 256) result->optimizeConvexHull();
        result->setMargin(margin);
        return result;
    }
};

Physics::Physics(double figureHeight) : simulation_(std::make_unique<Simulation>(figureHeight)) {
    Simulation& p = *simulation_;
    p.world.setGravity({0, -fall, 0});
    p.floor =
        std::make_unique<btRigidBody>(btRigidBody::btRigidBodyConstructionInfo(0, nullptr, &p.floorShape));
    p.floor->setFriction(0.8f);
    p.world.addRigidBody(p.floor.get());
}

Physics::~Physics() {
    clear();
    for (auto& wall : simulation_->rim) simulation_->world.removeRigidBody(wall.body.get());
    for (auto& one : simulation_->fixed) simulation_->world.removeRigidBody(one.body.get());
    simulation_->world.removeRigidBody(
        simulation_->floor.get()); // the world looks at what is left in it when it goes
}

void Physics::keepWithin(const glm::vec2& half, bool rim) {
    Simulation& p = *simulation_;
    p.reach = half;
    if (!rim) return;
    for (const btVector3& inward :
         {btVector3(1, 0, 0), btVector3(-1, 0, 0), btVector3(0, 0, 1), btVector3(0, 0, -1)}) {
        const float distance = (inward.x() != 0 ? half.x : half.y) * p.inside;
        Simulation::Wall wall{std::make_unique<btStaticPlaneShape>(inward, -distance), nullptr};
        wall.body = std::make_unique<btRigidBody>(
            btRigidBody::btRigidBodyConstructionInfo(0, nullptr, wall.shape.get()));
        wall.body->setFriction(0); // or things would stick to it
        p.world.addRigidBody(wall.body.get(), rimGroup, btBroadphaseProxy::DefaultFilter);
        p.rim.push_back(std::move(wall));
    }
}

int Physics::addShape(const Shape& shape, const glm::vec3& centre) {
    Simulation& p = *simulation_;
    const btVector3 middle = p.scaled(centre);
    p.shapes.push_back({shape, middle, p.makeHull(shape, middle)});
    return static_cast<int>(p.shapes.size()) - 1;
}

const Shape& Physics::shape(int number) const {
    return simulation_->shapes.at(number).shape;
}

int Physics::add(int shape, const glm::vec3& place, float tilt, float heading) {
    Simulation& p = *simulation_;
    const Simulation::Held& held = p.shapes.at(shape);
    btTransform at;
    at.setIdentity();
    at.setRotation(btQuaternion(btVector3(std::cos(heading), 0, std::sin(heading)), tilt));
    at.setOrigin(p.scaled(place) + held.centre);
    btVector3 inertia;
    const float mass = 1;
    held.hull->calculateLocalInertia(mass, inertia);
    auto motion = std::make_unique<btDefaultMotionState>(at);
    auto body = std::make_unique<btRigidBody>(
        btRigidBody::btRigidBodyConstructionInfo(mass, motion.get(), held.hull.get(), inertia));
    body->setFriction(0.6f);
    body->setRestitution(0.1f);
    body->setDamping(0.05f, 0.3f);
    body->setSleepingThresholds(0.3f, 0.3f);
    p.world.addRigidBody(body.get());
    p.bodies.push_back({std::move(body), std::move(motion), shape});
    return static_cast<int>(p.bodies.size()) - 1;
}

void Physics::addFixed(const Shape& shape, const glm::mat4& pose, bool hollow) {
    Simulation& p = *simulation_;
    if (shape.positions.empty() || (hollow && shape.indices.size() < 3)) return;
    Simulation::Fixed fixed{shape, pose, nullptr, nullptr, nullptr};
    const auto at = [&](std::size_t v) {
        return p.scaled(glm::vec3(pose * glm::vec4(shape.positions[v], 1)));
    };
    if (hollow) {
        fixed.triangles = std::make_unique<btTriangleMesh>();
        for (std::size_t i = 0; i + 2 < shape.indices.size(); i += 3)
            fixed.triangles->addTriangle(at(shape.indices[i]), at(shape.indices[i + 1]),
                                         at(shape.indices[i + 2]));
        fixed.form = std::make_unique<btBvhTriangleMeshShape>(fixed.triangles.get(), true);
    } else {
        auto hull = std::make_unique<btConvexHullShape>();
        for (std::size_t v = 0; v < shape.positions.size(); ++v) hull->addPoint(at(v), false);
        hull->recalcLocalAabb();
        hull->setMargin(margin);
        fixed.form = std::move(hull);
    }
    fixed.body =
        std::make_unique<btRigidBody>(btRigidBody::btRigidBodyConstructionInfo(0, nullptr, fixed.form.get()));
    fixed.body->setFriction(0.7f);
    fixed.body->setRestitution(0.45f);
    p.world.addRigidBody(fixed.body.get());
    p.fixed.push_back(std::move(fixed));
}

std::size_t Physics::fixedCount() const {
    return simulation_->fixed.size();
}
const Shape& Physics::fixedShape(std::size_t number) const {
    return simulation_->fixed.at(number).shape;
}
glm::mat4 Physics::fixedPose(std::size_t number) const {
    return simulation_->fixed.at(number).pose;
}

float Physics::gravity() const {
    return fall / simulation_->inside;
}

void Physics::launch(int body, const glm::vec3& velocity) {
    auto& b = *simulation_->bodies.at(body).body;
    b.activate();
    b.setRestitution(0.7f);
    b.setRollingFriction(0.2f); // or a ball would roll out of sight
    b.setLinearVelocity(simulation_->scaled(velocity));
}

void Physics::clear() {
    release();
    for (auto& body : simulation_->bodies) simulation_->world.removeRigidBody(body.body.get());
    simulation_->bodies.clear();
}

std::size_t Physics::count() const {
    return simulation_->bodies.size();
}
int Physics::shapeOf(int body) const {
    return simulation_->bodies.at(body).shape;
}

Pose Physics::pose(int body) const {
    const Simulation::Body& b = simulation_->bodies.at(body);
    btTransform t = b.body->getWorldTransform();
    t.setOrigin(t * -simulation_->shapes[b.shape].centre); // from the centre of mass to the body's origin
    float m[16];
    t.getOpenGLMatrix(m);
    Pose pose;
    for (int i = 0; i < 16; ++i) pose.matrix[i / 4][i % 4] = m[i];
    pose.matrix[3] = glm::vec4(glm::vec3(pose.matrix[3]) / simulation_->inside, 1);
    return pose;
}

void Physics::push(int body, const glm::vec3& velocity) {
    auto& b = *simulation_->bodies.at(body).body;
    b.activate();
    b.setLinearVelocity(simulation_->scaled(velocity));
    const float turn = 1.5f * simulation_->inside / 10;
    b.setAngularVelocity(btVector3(velocity.z, 0, -velocity.x) * turn);
}

void Physics::advance(double seconds) {
    constexpr double step = 1 / 240.0;
    Simulation& p = *simulation_;
    if (p.hold) {
        const btVector3 now = p.hold->getPivotInB(), way = p.target - now;
        const float most = handSpeed * static_cast<float>(seconds);
        p.hold->setPivotB(way.length() > most ? now + way * (most / way.length()) : p.target);
        // A hand rights what it holds, also what had fallen.
        btRigidBody& body = *p.bodies[p.held].body;
        const btVector3 up = body.getWorldTransform().getBasis().getColumn(1), sky(0, 1, 0);
        body.setAngularVelocity((up.y() < -0.99f ? btVector3(1, 0, 0) : up.cross(sky)) * rightingSpeed);
    }
    p.world.stepSimulation(static_cast<float>(seconds), static_cast<int>(seconds / step) + 2,
                           static_cast<float>(step));
}

bool Physics::atRest() const {
    return std::ranges::all_of(simulation_->bodies, [](const Simulation::Body& b) {
        return !b.body->isActive() ||
               (b.body->getLinearVelocity().length() < 0.2f && b.body->getAngularVelocity().length() < 0.2f);
    });
}

bool Physics::grab(const glm::vec3& from, const glm::vec3& direction) {
    Simulation& p = *simulation_;
    release();
    const btVector3 start = p.scaled(from), end = p.scaled(from + direction * (12800 / p.inside));
    btCollisionWorld::ClosestRayResultCallback hit(start, end);
    hit.m_collisionFilterMask = btBroadphaseProxy::AllFilter ^ rimGroup; // one looks in from outside
    p.world.rayTest(start, end, hit);
    for (std::size_t i = 0; i < p.bodies.size(); ++i) {
        if (hit.m_collisionObject != p.bodies[i].body.get()) continue;
        p.held = static_cast<int>(i);
        btRigidBody& body = *p.bodies[i].body;
        body.setActivationState(DISABLE_DEACTIVATION);
        // Held above its middle, like a piece between two fingers.
        const btVector3 pivot(0, 6, 0);
        p.hold = std::make_unique<btPoint2PointConstraint>(body, pivot);
        p.hold->setPivotB(body.getWorldTransform() * pivot);
        p.hold->m_setting.m_tau = 0.1f;
        p.hold->m_setting.m_impulseClamp = 400;
        body.setDamping(0.9f, 0.95f);
        p.world.addConstraint(p.hold.get());
        carry(from, direction);
        return true;
    }
    return false;
}

void Physics::carry(const glm::vec3& from, const glm::vec3& direction) {
    Simulation& p = *simulation_;
    if (!p.hold || direction.y > -0.01f) return;
    glm::vec3 onFloor = from + direction * (from.y / -direction.y);
    const glm::vec3 size = p.shapes[p.bodies[p.held].shape].shape.size();
    const glm::vec2 reach = glm::max(p.reach - std::max(size.x, size.z) / 2, glm::vec2(0));
    onFloor.x = std::clamp(onFloor.x, -reach.x, reach.x);
    onFloor.z = std::clamp(onFloor.z, -reach.y, reach.y);
    const btVector3 pivot = p.hold->getPivotInA(), centre = p.shapes[p.bodies[p.held].shape].centre;
    p.target = btVector3(onFloor.x * p.inside, carryHeight, onFloor.z * p.inside) + centre + pivot;
}

void Physics::release() {
    Simulation& p = *simulation_;
    if (!p.hold) return;
    p.world.removeConstraint(p.hold.get());
    p.hold.reset();
    btRigidBody& body = *p.bodies[p.held].body;
    body.forceActivationState(ACTIVE_TAG);
    body.setDamping(0.05f, 0.3f);
    p.held = -1;
}

bool Physics::holding() const {
    return simulation_->hold != nullptr;
}

bool Physics::touches(double distance, int shape) const {
    struct Touch : btCollisionWorld::ContactResultCallback {
        bool any = false;
        btScalar addSingleResult(btManifoldPoint& point, const btCollisionObjectWrapper*, int, int,
                                 const btCollisionObjectWrapper*, int, int) override {
            any |= point.getDistance() <= 0;
            return 0;
        }
    } touch;
    btCollisionObject a, b;
    a.setCollisionShape(simulation_->shapes.at(shape).hull.get());
    b.setCollisionShape(simulation_->shapes.at(shape).hull.get());
    btTransform at;
    at.setIdentity();
    a.setWorldTransform(at);
    at.setOrigin(btVector3(static_cast<float>(distance) * simulation_->inside, 0, 0));
    b.setWorldTransform(at);
    simulation_->world.contactPairTest(&a, &b, touch);
    return touch.any;
}

} // namespace zl::standins::world
