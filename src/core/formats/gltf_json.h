#pragma once
#include "core/formats/tinygltf.h"

#include <glm/glm.hpp>

namespace zl::formats {

// What a glTF file says by extensions, as JSON and as the library holds it.

nlohmann::json jsonOf(const tinygltf::Value& value);
/// Whole numbers stay whole. Numbers that are none become 0.
tinygltf::Value valueOf(const nlohmann::json& json);

/// The member of an object if it is a finite number; else `otherwise`.
double numberIn(const nlohmann::json& object, const char* key, double otherwise);
/// An index; -1 for what is no whole number of 0 or more.
int indexIn(const nlohmann::json& object, const char* key);
/// Text of sound letters; empty where there is none.
std::string textIn(const nlohmann::json& object, const char* key);
bool flagIn(const nlohmann::json& object, const char* key);
/// `count` finite numbers of a list; `otherwise` where it is anything else.
glm::dvec3 placeIn(const nlohmann::json& object, const char* key, const glm::dvec3& otherwise);
/// A member that is an object, or a list; an empty one where it is not.
const nlohmann::json& objectIn(const nlohmann::json& object, const char* key);
const nlohmann::json& listIn(const nlohmann::json& object, const char* key);
/// Whole numbers of a list that are below `count`; others are left out.
std::vector<int> indicesIn(const nlohmann::json& object, const char* key, std::size_t count);

} // namespace zl::formats
