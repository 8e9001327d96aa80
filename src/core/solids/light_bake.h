#pragma once
#include "core/solids/light_store.h"
#include "core/solids/scene_model.h"
#include "core/base/progress.h"

namespace zl::solids {

struct BakeSettings {
    int pixels = 256;    ///< along each side of a face's picture
    double perMetre = 0; ///< above 0: so many pixels a metre, to the next power of two, up to `pixels`
    int bounces = 2;     ///< how often light is thrown back
    glm::vec3 sky{0.3f}; ///< linear light from all around above the horizon on what lies open to it
    int samples = 128;   ///< rays to a light where its shadow is soft
    int rays = 512;      ///< rays into the scene for light thrown back, from each place that gathers it
    std::uint64_t seed = 1;
};

struct Baked {
    /// In the order of LitScene::faces(); null for a face that light goes through.
    std::vector<std::shared_ptr<const Image>> pictures;
    std::size_t anew = 0; ///< faces that were not in the store
    double seconds = 0;
};

/// A picture for each face of a scene with all light that falls on it: straight from the lights (every
/// pixel), from the sky and thrown back by other faces (gathered at places some way apart, after Ward and
/// others 1988), times the face's own colour. The same scene and settings give the same bytes, whatever the
/// store holds. Cancelled, the store keeps the faces that are done. Throws Cancelled, and Error where a
/// picture is broken.
Baked bakeLight(const Model& model, const Shown& shown, const BakeSettings& settings, LightStore& store,
                const Progress& progress);

/// How many faces bakeLight() would have to work out.
std::size_t facesToBake(const Model& model, const Shown& shown, const BakeSettings& settings,
                        LightStore& store);

/// The model with each face wearing its picture.
Model litModel(const Model& model, const Shown& shown, const Baked& baked);

} // namespace zl::solids
