#pragma once
#include "core/model/model.h"
#include "core/platform/sheet.h"

namespace zl::deliver {

/// A picture as a platform wants it, of one material.
struct PackedPicture {
    Pixels pixels;
    bool alpha = false;
    std::vector<std::string> assumed; ///< "height is 0.5": roles that the material has no picture of
    std::vector<std::string> leftOut; ///< pictures of the material that could not be part of it, and why
};

/// Packs `picture` out of a material of `model`: each channel from the role that the sheet names. Its
/// pictures are brought to one size, the largest of theirs or what the sheet allows; those that lie otherwise
/// than the leading one are drawn anew to lie as that does. A role without a picture is the material's plain
/// value everywhere; gloss stands for roughness, turned over, and the other way round. Throws Error when a
/// picture is broken.
PackedPicture packedFor(const platform::SheetPicture& picture, const Material& material, const Model& model);

} // namespace zl::deliver
