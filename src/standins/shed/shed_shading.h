#pragma once
#include "standins/shed/asset.h"
#include "standins/world/shading.h"

namespace zl::standins::shed {

/// The shed's own light on things: it reads the three packed pictures and nothing else.
class ShedShading : public world::Shading {
public:
    enum class Light { Sun, Cloud, Lamp, AllSides };
    enum class View {
        Lit,
        Flat,
        Relief
    }; ///< with its relief, without parallax, or only where the relief lies

    explicit ShedShading(const Asset& asset);

    Light light = Light::Sun;
    View view = View::Lit;

    std::vector<Value> values() const override;
    std::string_view text() const override;
    glm::vec4 lit(const world::ShadedItem& item, const glm::vec3& levels, const world::ShadedCorner& at,
                  const glm::vec3& eye) const override;

private:
    /// What the shader's text reads; asked for with every pixel, so without a list that would have to be
    /// made.
    struct Lamps {
        glm::vec4 lampAt, lamp, sky, ground, relief;
    };
    Lamps lamps() const;

    glm::vec3 low_, high_;
};

} // namespace zl::standins::shed
