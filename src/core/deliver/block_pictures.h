#pragma once
#include "core/base/file_set.h"
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::deliver {

/// The model's colour pictures as DDS in blocks with all their levels, by names that tell them apart; the
/// model's images are called so, too.
std::vector<OutFile> blockPictures(Model& model, const Progress& progress);

} // namespace zl::deliver
