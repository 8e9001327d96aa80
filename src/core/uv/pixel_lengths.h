#pragma once
#include "core/model/model.h"

#include <map>

namespace zl::uv {

/// How long the edge of a pixel is on the model's surface on average, in metres, by image: of those that lead
/// a material which faces wear.
std::map<int, double> pixelLengths(const Model& model);

} // namespace zl::uv
