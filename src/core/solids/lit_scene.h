#pragma once
#include "core/base/hash.h"
#include "core/geometry/ray_scene.h"
#include "core/solids/lamplight.h"
#include "core/solids/scene_model.h"

namespace zl::solids {

/// A face of a scene that light falls on.
struct LitFace {
    std::size_t part = 0; ///< of Shown::parts
    std::size_t run = 0;  ///< of its mesh
    int face = 0;         ///< Face
    glm::dvec3 least{0}, most{0};
    glm::vec3 albedo{0}; ///< linear light that it throws back, the mean of its picture
    glm::vec3 glow{0};
    double area = 0; ///< square metres
    bool flat = false;
    glm::dvec3 normal{0}; ///< of a flat one, on whose plane dot(normal, place) is `plane`
    double plane = 0;
};

/// A scene prepared for light: what can be in the way of it, and what it falls on. Everything in metres of
/// the scene. May be asked by several threads.
class LitScene {
public:
    /// `model` shows `shown` and must outlive this.
    LitScene(const Model& model, const Shown& shown);

    const Shown& shown() const { return shown_; }
    const std::vector<LitFace>& faces() const { return faces_; }
    const std::vector<Lamplight>& lights() const { return lights_; }
    const glm::dmat4& placeOf(std::size_t part) const { return bodies_[part].place; }
    double size() const { return size_; }

    bool blocked(const glm::vec3& from, const glm::vec3& towards, float length) const {
        return rays_->blocked(from, towards, 0, length);
    }
    std::uint32_t blocked(std::span<const geometry::RayScene::Ray> rays) const {
        return rays_->blocked(rays);
    }
    struct Hit {
        int face = -1; ///< −1 for the sky, −2 for the back of something
        glm::vec2 uv{0};
        glm::vec3 at{0};
    };
    Hit hit(const glm::vec3& from, const glm::vec3& towards) const;

    /// The parts that may be in the way between a box of places on a face and a light, of those in `among`:
    /// none that is has been left out.
    std::vector<std::size_t> between(const LitFace& face, const Lamplight::Box& places,
                                     const Lamplight& light, const std::vector<std::size_t>& among) const;
    /// Parts that light does not go through.
    const std::vector<std::size_t>& opaque() const { return opaque_; }
    /// Whether something stands within the box other than the part itself.
    bool stands(std::size_t onPart, const Lamplight::Box& box) const;

    /// How far a ray begins above the surface at a place: more than floats lose there, and less than any
    /// wall.
    float above(const glm::vec3& at) const;

    /// By how much of what a face sees a part may be, at most (the share of a half sphere).
    double shareSeen(const LitFace& face, std::size_t part) const;
    /// Changes when anything of the part itself changes: its shape, place and looks.
    Hash keyOf(std::size_t part) const { return bodies_[part].key; }

private:
    struct Body {
        glm::dmat4 place{1}, back{1};
        glm::dvec3 half{0};           ///< of its box, in its own space
        glm::dvec3 least{0}, most{0}; ///< of its box in the scene
        bool opaque = true, convex = false;
        Hash key = 0;
    };
    void addFaces(const Model& model, std::size_t part, const Mesh& placed);

    const Shown& shown_;
    std::vector<Body> bodies_;
    std::vector<std::size_t> opaque_;
    std::vector<LitFace> faces_;
    std::vector<Lamplight> lights_;
    Mesh whole_;
    std::vector<int> faceOf_; ///< of each triangle of it
    std::unique_ptr<geometry::RayScene> rays_;
    double size_ = 0;
};

} // namespace zl::solids
