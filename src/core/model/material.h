#pragma once
#include <glm/glm.hpp>

#include <array>
#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace zl {

struct KeptExtensions;

/// What a picture of a material is for.
enum class PictureRole : std::uint8_t {
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
inline constexpr std::size_t pictureRoles = 10;
/// All roles, in their order.
inline constexpr std::array<PictureRole, pictureRoles> allPictureRoles{
    PictureRole::Colour,    PictureRole::Opacity,   PictureRole::Normal, PictureRole::Height,
    PictureRole::Roughness, PictureRole::Metalness, PictureRole::Gloss,  PictureRole::Specular,
    PictureRole::Occlusion, PictureRole::Emission};
/// In a sentence: "colour", "normal" …
std::string_view roleName(PictureRole role);
/// Whether a role is one number a pixel, so that one channel of a picture can hold it.
bool isScalar(PictureRole role);
/// Whether a role's pixels are colours, kept in sRGB's curve, and not plain numbers.
bool isColour(PictureRole role);

/// The role that says the same turned over: gloss for roughness and roughness for gloss; any other is itself.
PictureRole otherSayingOf(PictureRole role);

/// Which of a picture's channels a role takes. `Colour` is red, green and blue together; where one number is
/// wanted, their mean.
enum class PictureChannel : std::uint8_t { Colour, Red, Green, Blue, Alpha };

/// Where a picture lies on UVs: it is looked up at turn(uv · scale) + offset, as in glTF's
/// KHR_texture_transform.
struct UvPlacement {
    glm::vec2 offset{0.0f}, scale{1.0f};
    float turn = 0; ///< radians, counter-clockwise on the picture

    bool operator==(const UvPlacement&) const = default;
    bool isPlain() const { return *this == UvPlacement{}; }
    glm::vec2 of(glm::vec2 uv) const;
    /// What `of` does to (u, v, 1).
    glm::dmat3 matrix() const;
};

/// What a picture shows beyond its edges, and between its pixels.
enum class Beyond : std::uint8_t { Repeat, Mirror, Clamp };
struct Sampler {
    Beyond across = Beyond::Repeat, down = Beyond::Repeat;
    bool smooth = true; ///< false: the nearest pixel as it is

    bool operator==(const Sampler&) const = default;
};

/// UV sets that a picture may be on.
inline constexpr int mostUvSets = 8;

/// How a material uses a picture in one role.
struct PictureUse {
    int image = -1; ///< index into Model::images; -1 for none
    PictureChannel channel = PictureChannel::Colour;
    int uvSet = 0; ///< below mostUvSets; a mesh without that set shows no picture
    UvPlacement placement;
    Sampler sampler;

    explicit operator bool() const { return image >= 0; }
    bool operator==(const PictureUse&) const = default;
    /// Whether both lie on the same UVs in the same way.
    bool liesAs(const PictureUse& other) const {
        return uvSet == other.uvSet && placement == other.placement && sampler == other.sampler;
    }
};

/// A named value of a material that some platform knows and the program only carries: "shine" is 0.8.
using MaterialSetting = std::variant<bool, double, std::string>;
using MaterialSettings = std::map<std::string, MaterialSetting>;

struct Material {
    std::string name;
    glm::vec4 baseColour{0.8f, 0.8f, 0.8f, 1.0f}; ///< linear RGB, alpha
    glm::vec3 emission{0.0f};
    float metalness = 0.0f;
    float roughness = 0.7f;
    std::array<PictureUse, pictureRoles> pictures; ///< by role
    bool doubleSided = false;
    enum class Alpha : std::uint8_t { Opaque, Mask, Blend } alpha = Alpha::Opaque;
    float alphaCutoff = 0.5f;
    MaterialSettings settings;
    std::shared_ptr<const KeptExtensions> kept{}; ///< what its file says of it and is not understood here

    PictureUse& picture(PictureRole role) { return pictures[std::size_t(role)]; }
    const PictureUse& picture(PictureRole role) const { return pictures[std::size_t(role)]; }
    /// Takes a picture for a role: it gives the whole of what that says, so a plain value beside it that
    /// would darken it or leave nothing of it gives way.
    void wear(PictureRole role, const PictureUse& use);
    /// The index of the role's picture, or -1.
    int image(PictureRole role) const { return picture(role).image; }
    /// The use that says where the material's pictures lie, for whoever takes one place for all: the
    /// colour's, else the first that there is; null without pictures.
    const PictureUse* leading() const;

    bool operator==(const Material&) const = default;
};

/// The role of `leading`; Colour without pictures.
PictureRole leadingRole(const Material& material);
/// Roles whose pictures lie otherwise than the leading one: what a format with one place for all cannot say.
std::vector<PictureRole> rolesLyingApart(const Material& material);

} // namespace zl
