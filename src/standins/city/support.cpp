#include "standins/city/support.h"

#include <algorithm>

namespace zl::standins::city {

namespace {

struct Met {
    float distance = 1e30f;
    const Object* object = nullptr;
    std::string kind;
};

/// The first thing downward from a point of the shown world; `except` is left out.
Met below(const CityLoaded& city, const glm::vec3& from, const Place* except, double reach) {
    Met out;
    for (const Place& place : city.places) {
        if (&place == except) continue;
        const Object& object = city.objects[place.object];
        if (object.mesh.parts.empty()) continue;
        const glm::mat4 pose = poseOf(place);
        const float size = glm::length(object.mesh.high - object.mesh.low);
        if (glm::distance(glm::vec3(pose[3]), from) > float(reach) + size) continue;
        const glm::mat4 back = glm::inverse(pose);
        const glm::vec3 start(back * glm::vec4(from, 1)), way(back * glm::vec4(0, -1, 0, 0));
        const auto meet = [&](const world::Shape& shape, const std::vector<std::string>* kinds) {
            const auto met = world::firstMet(shape, start, way);
            if (met && met->distance < out.distance)
                out = {met->distance, &object, kinds ? (*kinds)[met->face] : std::string()};
        };
        if (object.body)
            meet(object.body->shape, &object.body->kinds);
        else
            for (const MeshFile::Part& part : object.mesh.parts) meet(part.shape, nullptr);
    }
    return out;
}

} // namespace

Support supportOf(const CityLoaded& city, const Place& place) {
    const Object& object = city.objects[place.object];
    const glm::mat4 pose = poseOf(place);
    float base = 1e30f;
    for (const MeshFile::Part& part : object.mesh.parts)
        for (const glm::vec3& p : part.shape.positions) base = std::min(base, (pose * glm::vec4(p, 1)).y);
    if (base > 1e29f) base = pose[3].y;
    if (city.isDelivery) return {"its own spot", "", double(base), 0};
    const glm::vec3 from(pose[3].x, base + 0.5f, pose[3].z);
    const Met met = below(city, from, &place, 60);
    const bool ground = !met.object || from.y - met.distance < 0;
    const double height = ground ? 0 : double(from.y) - double(met.distance);
    return {ground ? "the ground" : met.object->name, ground ? "paving" : met.kind, height,
            double(base) - height};
}

Step stepAt(const CityLoaded& city, const glm::vec3& from, double reach) {
    const Met met = below(city, from, nullptr, reach);
    if (!met.object || from.y - met.distance < 0) return {};
    return {double(from.y) - double(met.distance), met.kind.empty() ? "paving" : met.kind, met.object->name};
}

} // namespace zl::standins::city
