#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::render {

struct SnapshotOptions {
    int width = 800;
    int height = 600;
    int samples = 16;          ///< rays a pixel, at most: plain places take fewer
    double yawRadians = 0.6;   ///< camera to the right of the front (+Z)
    double pitchRadians = 0.3; ///< camera above the horizon
    double closeness = 1;      ///< 1 shows the whole with a little air, 2 from half as far
    bool ground = true;        ///< floor with the model's shadow
    bool dusk = false;         ///< the dark theme's background
};

/// A picture of the placed model without a window: a soft key light from the upper left, light from all of
/// the sky, a ground shadow, material colours and pictures (Embree; Lambert with a small highlight).
/// The same input gives the same pixels. A model without triangles gives the background.
Pixels snapshot(const Model& model, const SnapshotOptions& options = {}, const Progress& progress = {});

} // namespace zl::render
