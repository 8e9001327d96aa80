#pragma once
#include "core/model/model.h"

namespace zl {

/// A model as bytes, for another process of the same program on the same machine: not a file format.
/// Colliders, which no file holds, are left out, and so are set-ups of avatars and extensions of glTF.
std::string toBytes(const Model& model);

/// The model that toBytes() took. Throws Error when the bytes end too soon or promise too much.
Model modelFromBytes(std::string_view bytes);

} // namespace zl
