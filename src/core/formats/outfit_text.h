#pragma once
#include "core/base/file_set.h"
#include "core/model/model.h"

namespace zl::formats {

/// A model as the text mesh of docs/formats/outfit.md: NAME.outfit, objects with their material's settings,
/// bones, corners with at most four weights, triangles, in the model's own numbers and order.
OutFile outfitText(const Model& model, const std::string& name);

} // namespace zl::formats
