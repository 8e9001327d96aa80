#include "core/formats/gltf_clip_way.h"

namespace zl::formats {

glm::dvec3 clipWayIn(const tinygltf::Value& extras) {
    if (!extras.IsObject() || !extras.Has("way")) return glm::dvec3(0);
    const tinygltf::Value& way = extras.Get("way");
    if (!way.IsArray() || way.ArrayLen() != 3) return glm::dvec3(0);
    constexpr double farthest = 1e6; // metres
    glm::dvec3 out(0);
    for (int k = 0; k < 3; ++k) {
        const tinygltf::Value& number = way.Get(k);
        if (!number.IsNumber() || !(std::abs(number.GetNumberAsDouble()) <= farthest)) return glm::dvec3(0);
        out[k] = number.GetNumberAsDouble();
    }
    return out;
}

tinygltf::Value clipWayValue(const glm::dvec3& way) {
    tinygltf::Value::Array out;
    for (int k = 0; k < 3; ++k) out.emplace_back(way[k]);
    return tinygltf::Value(tinygltf::Value::Object{{"way", tinygltf::Value(out)}});
}

} // namespace zl::formats
