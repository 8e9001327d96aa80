#pragma once
#include "core/model/model.h"

#include <map>

namespace zl::texture {

/// A material as it looks, place by place: its factors, and its pictures decoded and lying as the leading one
/// says. Pictures that lie on another UV set than that one are not part of it. Places are those on the
/// leading picture.
class WornLook {
public:
    /// `model` holds the material's pictures and must outlive the look.
    WornLook(Material material, const Model& model);

    const Material& material() const { return material_; }
    bool hasPictures() const { return leading() != nullptr; }
    bool shows(PictureRole role) const { return bool(material_.picture(role)); }
    /// Roles left out, each with the reason.
    const std::vector<std::string>& leftOut() const { return leftOut_; }
    /// How its pictures lie; null without pictures.
    const PictureUse* leading() const { return material_.leading(); }
    /// Pixels of the finest picture on a whole UV square; 1 by 1 without pictures.
    glm::ivec2 pixels() const;
    /// By how much places can be moved along an axis (0 across, 1 down) with the looks unchanged: 1 for what
    /// repeats, 2 for what repeats mirrored, 0 for what does not.
    int period(int axis) const;

    /// Decodes its pictures, shrunk by halves as long as both sides have twice as many pixels as `wanted` or
    /// more. A picture that is broken joins `leftOut`.
    void decode(glm::dvec2 wanted);
    void forget() { levels_.clear(), levelOf_.fill(nullptr); }
    /// As `pixels`, of what was decoded.
    glm::dvec2 decodedPixels() const;

    // What pixel and factor come to at a place. Only between `decode` and `forget`.
    glm::vec4 colour(glm::vec2 at) const;   ///< linear light; alpha as it is kept
    glm::vec3 normal(glm::vec2 at) const;   ///< 0-1 a channel, turned into the frame of placed UVs
    glm::vec3 emission(glm::vec2 at) const; ///< linear light
    glm::vec3 specular(glm::vec2 at) const; ///< linear light
    /// Roughness (also from gloss), metalness, occlusion or height.
    float number(PictureRole role, glm::vec2 at) const;

private:
    /// Keeps a role only where its places follow from the leading picture's.
    void place(PictureRole role);
    void leaveOut(PictureRole role, const std::string& why);
    glm::vec4 pixel(PictureRole role, glm::vec2 at) const;

    Material material_;
    const Model& model_;
    std::vector<std::string> leftOut_;
    std::array<glm::mat3, pictureRoles> toRole_; ///< from the leading picture's places to the role's
    std::array<bool, pictureRoles> moved_{};     ///< whether toRole_ is more than the same place
    std::map<std::pair<int, bool>, std::shared_ptr<const Pixels>>
        levels_;                                        ///< by image, and whether it holds colours
    std::array<const Pixels*, pictureRoles> levelOf_{}; ///< of each role, once decoded
};

} // namespace zl::texture
