#include "core/formats/gltf_json.h"

#include "core/base/utf8.h"

#include <glm/glm.hpp>

#include <cmath>
#include <limits>

namespace zl::formats {

using Json = nlohmann::json;

Json jsonOf(const tinygltf::Value& value) {
    if (value.IsBool()) return value.Get<bool>();
    if (value.IsInt()) return value.Get<int>();
    if (value.IsNumber()) return value.GetNumberAsDouble();
    if (value.IsString()) return asUtf8(value.Get<std::string>());
    if (value.IsArray()) {
        Json out = Json::array();
        for (std::size_t k = 0; k < value.ArrayLen(); ++k) out.push_back(jsonOf(value.Get(int(k))));
        return out;
    }
    if (!value.IsObject()) return nullptr;
    Json out = Json::object();
    for (const std::string& key : value.Keys()) out[asUtf8(key)] = jsonOf(value.Get(key));
    return out;
}

tinygltf::Value valueOf(const Json& json) {
    using Value = tinygltf::Value;
    if (json.is_boolean()) return Value(json.get<bool>());
    if (json.is_number_integer()) {
        const auto whole = json.get<std::int64_t>();
        if (whole >= std::numeric_limits<int>::min() && whole <= std::numeric_limits<int>::max())
            return Value(int(whole));
        return Value(double(whole));
    }
    if (json.is_number()) return Value(std::isfinite(json.get<double>()) ? json.get<double>() : 0.0);
    if (json.is_string()) return Value(json.get<std::string>());
    if (json.is_array()) {
        Value::Array out;
        for (const Json& one : json) out.push_back(valueOf(one));
        return Value(out);
    }
    if (!json.is_object()) return Value();
    Value::Object out;
    for (const auto& [key, one] : json.items()) out.emplace(key, valueOf(one));
    return Value(out);
}

double numberIn(const Json& object, const char* key, double otherwise) {
    const auto found = object.is_object() ? object.find(key) : object.end();
    if (!object.is_object() || found == object.end() || !found->is_number()) return otherwise;
    const double number = found->get<double>();
    return std::isfinite(number) ? number : otherwise;
}

int indexIn(const Json& object, const char* key) {
    const double number = numberIn(object, key, -1);
    return number >= 0 && number < 1e9 && number == std::floor(number) ? int(number) : -1;
}

std::string textIn(const Json& object, const char* key) {
    if (!object.is_object() || !object.contains(key) || !object[key].is_string()) return {};
    return asUtf8(object[key].get<std::string>());
}

bool flagIn(const Json& object, const char* key) {
    return object.is_object() && object.contains(key) && object[key].is_boolean() && object[key].get<bool>();
}

glm::dvec3 placeIn(const Json& object, const char* key, const glm::dvec3& otherwise) {
    const Json& list = listIn(object, key);
    glm::dvec3 out;
    if (list.size() != 3) return otherwise;
    for (int k = 0; k < 3; ++k) {
        const Json& number = list[std::size_t(k)];
        if (!number.is_number() || !std::isfinite(number.get<double>())) return otherwise;
        out[k] = number.get<double>();
    }
    return out;
}

const Json& objectIn(const Json& object, const char* key) {
    static const Json none = Json::object();
    const auto found = object.is_object() ? object.find(key) : object.end();
    return object.is_object() && found != object.end() && found->is_object() ? *found : none;
}

const Json& listIn(const Json& object, const char* key) {
    static const Json none = Json::array();
    const auto found = object.is_object() ? object.find(key) : object.end();
    return object.is_object() && found != object.end() && found->is_array() ? *found : none;
}

std::vector<int> indicesIn(const Json& json, const char* key, std::size_t count) {
    std::vector<int> out;
    for (const Json& one : listIn(json, key))
        if (one.is_number_integer() && one.get<std::int64_t>() >= 0 && one.get<std::uint64_t>() < count)
            out.push_back(one.get<int>());
    return out;
}

} // namespace zl::formats
