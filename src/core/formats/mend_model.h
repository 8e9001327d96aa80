#pragma once
#include "core/model/model.h"

namespace zl::formats {

/// Makes a model that was just read keep what Model promises (model/promises.h): triangles on corners that
/// are missing or no numbers go, UVs that are no numbers become 0, names become UTF-8, channels of broken
/// keys go, skinned meshes stand where their bones show them, and so on; the model's warnings say what went
/// and how much. Throws Error when nothing can be made of it.
void mendModel(Model& model);

} // namespace zl::formats
