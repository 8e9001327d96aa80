#pragma once
#include "core/model/mesh.h"

namespace zl::contact {

// The plain shapes of physics around a body, each as a convex piece that holds all of it. They stand on the
// axes or on the body's principal axes, whichever holds less.

/// The smallest box.
Mesh boxAround(const Mesh& body);
/// A prism of as many sides as `corners` allow, sixteen at most, around the smallest cylinder on its axis.
Mesh cylinderAround(const Mesh& body, std::size_t corners);
/// A cylinder with half balls at its ends, of as many sides as `corners` allow, twelve at most; needs 24
/// corners.
Mesh capsuleAround(const Mesh& body, std::size_t corners);
/// Around the smallest ball: of 42 corners, or of 12 where there may not be so many.
Mesh ballAround(const Mesh& body, std::size_t corners);

} // namespace zl::contact
