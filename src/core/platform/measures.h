#pragma once
#include "core/geometry/foot.h"
#include "core/model/twin.h"
#include "core/uv/uv_faces.h"

namespace zl::platform {

/// What several rules want to know of one model, each worked out at most once.
class Measures {
public:
    Measures(const Model& model, const Sizes& sizes) : model_(model), sizes_(sizes) {}

    const Model& model() const { return model_; }
    /// The model's other sizes.
    const Sizes& sizes() const { return sizes_; }
    const geometry::Bounds& bounds() const {
        if (!bounds_) bounds_ = geometry::worldBounds(model_);
        return *bounds_;
    }
    const geometry::Foot& foot() const {
        if (!foot_) foot_ = geometry::footOf(model_);
        return *foot_;
    }
    const uv::UvFaces& uvFaces() const {
        if (!uvFaces_) uvFaces_ = uv::uvFaces(model_);
        return *uvFaces_;
    }

private:
    const Model& model_;
    const Sizes& sizes_;
    mutable std::optional<geometry::Bounds> bounds_;
    mutable std::optional<geometry::Foot> foot_;
    mutable std::optional<uv::UvFaces> uvFaces_;
};

} // namespace zl::platform
