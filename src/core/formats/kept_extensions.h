#pragma once
#include "core/formats/tinygltf.h"
#include "core/model/avatar.h"

#include <functional>

namespace zl::formats {

/// Whether an extension goes into what a model knows of itself, so that it is not kept beside it.
bool isUnderstood(std::string_view extension);

/// What is not understood of the extensions that a file says of one thing; null where nothing is left.
/// Pictures that it names by `…Texture` and a texture's number are looked up by `picture`.
std::shared_ptr<const KeptExtensions>
keptOf(const tinygltf::ExtensionMap& extensions,
       const std::function<std::shared_ptr<const Image>(int texture)>& picture);

/// Puts them back. `texture` gives a picture's texture number; `used` grows by their names.
void putKept(const KeptExtensions& kept, tinygltf::ExtensionMap& to, std::vector<std::string>& used,
             const std::function<int(const std::shared_ptr<const Image>&)>& texture);

} // namespace zl::formats
