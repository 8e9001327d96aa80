#pragma once
#include "core/selection/chosen.h"

namespace zl::contact {

/// Places and triangles of what a model shows, in world space, as one mesh without anything else: all of it,
/// or the chosen faces. The surface that bodies for physics are made of and measured by.
Mesh bodyMesh(const Model& model, const selection::Chosen* chosen = nullptr);

} // namespace zl::contact
