#pragma once
#include "core/formats/tinygltf.h"

#include <map>
#include <string>

namespace zl::formats {

/// A node's marks as glTF keeps them among its extras: `marks`, an object of places to words. Those in places
/// that there are not, or without a word, are left out.
std::map<int, std::string> marksIn(const tinygltf::Value& extras);
/// Adds them to what else the extras say.
void putMarks(const std::map<int, std::string>& marks, tinygltf::Value& extras);

} // namespace zl::formats
