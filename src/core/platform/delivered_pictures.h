#pragma once
#include "core/model/model.h"
#include "core/platform/sheet.h"

namespace zl::platform {

/// A picture that a platform gets of a model, before it is made.
struct DeliveredPicture {
    std::string name;  ///< without ending where the sheet packs pictures
    int material = -1; ///< that it is packed for; -1 where pictures are delivered as they are
    int image = -1;    ///< of the model, where it is delivered as it is
    glm::ivec2 size{1};
    std::string format; ///< id (texture/picture_format.h)
    bool alpha = false;

    /// Bytes on a graphics card, smaller levels among them.
    double memory() const;
};

/// What `sheet` packs out of every used material that wears pictures; where it says nothing of packing, every
/// picture that is used, each once.
std::vector<DeliveredPicture> deliveredPictures(const Model& model, const Sheet& sheet);

} // namespace zl::platform
