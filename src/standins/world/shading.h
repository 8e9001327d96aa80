#pragma once
#include "standins/world/picture_levels.h"

#include <memory>

namespace zl::standins::world {

/// From where a picture is taken.
struct Lens {
    glm::mat4 view{1.0f}, projection{1.0f};
    glm::vec3 eye{0};
    int width = 1, height = 1;
};

/// Looks at a box from in front, a little from the right and above, with some air around it.
Lens lensFor(const glm::vec3& low, const glm::vec3& high, int width, int height);

/// A corner with what a picture needs to lie on a surface: the way that a whole picture's width, and its
/// height, go in space.
struct ShadedCorner {
    glm::vec3 position, normal, across, down;
    glm::vec2 uv;
};

struct ShadedItem {
    std::vector<ShadedCorner> corners;
    std::vector<std::uint32_t> indices;
    std::vector<std::shared_ptr<const PictureLevels>> pictures; ///< at most three
    float uvsPerUnit = 0; ///< widths of a picture along one unit of its surface, on the mean
    glm::vec3 middle{0};
    glm::vec4 own{0}; ///< a value of this item alone

    /// Which level of each picture is read, for the whole item alike.
    glm::vec3 levelsFrom(const Lens& lens, const glm::mat4& pose) const;
};

/// Corners with the ways of their pictures out of a shape's UVs (Lengyel, "Computing Tangent Space Basis
/// Vectors for an Arbitrary Mesh", 2001).
ShadedItem shadedItemOf(const Shape& shape, std::vector<std::shared_ptr<const PictureLevels>> pictures);

/// How an arena has its things drawn by a shader of its own. One text says how: it is compiled for the
/// graphics card, and as C++ for pictures without one.
class Shading {
public:
    virtual ~Shading() = default;

    struct Value {
        const char* name;
        glm::vec4 value;
    };
    /// What the text reads besides the surface; the same names in the same order always.
    virtual std::vector<Value> values() const = 0;
    /// GLSL 3.30 that defines `vec4 lit(vec3 at, vec3 normal, vec3 across, vec3 down, vec2 uv)` (sRGB as
    /// shown) out of `values()`, `eye`, `own` and `vec4 sampled(int picture, vec2 uv)`.
    virtual std::string_view text() const = 0;
    /// The same here: `levels` are those of the item's pictures.
    virtual glm::vec4 lit(const ShadedItem& item, const glm::vec3& levels, const ShadedCorner& at,
                          const glm::vec3& eye) const = 0;

    const std::vector<ShadedItem>& items() const { return items_; }

protected:
    std::vector<ShadedItem> items_;
};

} // namespace zl::standins::world
