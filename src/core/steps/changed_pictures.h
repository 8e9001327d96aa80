#pragma once
#include "core/steps/set_pictures.h"
#include "core/texture/resized.h"

#include <algorithm>
#include <array>

namespace zl::steps {

/// Which roles' pictures a step is about: the first is all of them, the others follow PictureRole.
enum class RolesMeant : std::uint8_t {
    Every,
    Colour,
    Opacity,
    Normal,
    Height,
    Roughness,
    Metalness,
    Gloss,
    Specular,
    Occlusion,
    Emission
};
inline constexpr auto rolesMeant = [] {
    std::array<Choice, pictureRoles + 1> all{{{"every", "whatever they are for"}}};
    std::ranges::copy(SetPictures::Picture::roles, all.begin() + 1);
    return all;
}();

/// Another picture in place of `image`, whose pixels are of `kind`; null leaves it as it is.
using PictureChange = std::function<std::shared_ptr<const Image>(const std::shared_ptr<const Image>& image,
                                                                 texture::PixelKind kind)>;

/// Gives the materials called as `of` (all for none) changed pictures in the roles meant. A picture that is
/// worn several times is changed once for each kind of pixels that it is taken for; others that wear it keep
/// it as it is. Returns how many were changed. Throws Error when no material is called so.
int changePictures(Model& model, const PartNames& of, RolesMeant roles, const Progress& progress,
                   const PictureChange& change);

} // namespace zl::steps
