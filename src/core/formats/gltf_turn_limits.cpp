#include "core/formats/gltf_turn_limits.h"

#include <glm/gtc/constants.hpp>

namespace zl::formats {

namespace {

std::optional<glm::dvec3> anglesIn(const tinygltf::Value& limits, const std::string& name) {
    if (!limits.Has(name) || !limits.Get(name).IsArray() || limits.Get(name).ArrayLen() != 3)
        return std::nullopt;
    glm::dvec3 out;
    for (int k = 0; k < 3; ++k) {
        const tinygltf::Value& angle = limits.Get(name).Get(k);
        if (!angle.IsNumber() || !(std::abs(angle.GetNumberAsDouble()) <= 180)) return std::nullopt;
        out[k] = glm::radians(angle.GetNumberAsDouble());
    }
    return out;
}

tinygltf::Value valueOf(const glm::dvec3& radians) {
    tinygltf::Value::Array out;
    for (int k = 0; k < 3; ++k) out.emplace_back(std::round(glm::degrees(radians[k]) * 1000) / 1000);
    return tinygltf::Value(out);
}

} // namespace

std::optional<TurnLimits> turnLimitsIn(const tinygltf::Value& extras) {
    if (!extras.IsObject() || !extras.Has("turnLimits") || !extras.Get("turnLimits").IsObject())
        return std::nullopt;
    const auto least = anglesIn(extras.Get("turnLimits"), "least"),
               most = anglesIn(extras.Get("turnLimits"), "most");
    if (!least || !most || glm::any(glm::greaterThan(*least, *most))) return std::nullopt;
    return TurnLimits{*least, *most};
}

tinygltf::Value turnLimitsValue(const TurnLimits& limits) {
    return tinygltf::Value(tinygltf::Value::Object{
        {"turnLimits", tinygltf::Value(tinygltf::Value::Object{{"least", valueOf(limits.least)},
                                                               {"most", valueOf(limits.most)}})}});
}

} // namespace zl::formats
