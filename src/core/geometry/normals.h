#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// How much each face says in the normal that a place's faces share.
enum class NormalWeight {
    Angle,       ///< by its corner's angle (Thürmer & Wüthrich 1998)
    Area,        ///< by its area (Gouraud 1971), so that large flat faces stay flat to the eye
    AngleAndArea ///< by the product of both (after Max 1999)
};

/// The mesh with normals computed anew: corners at one place share a normal where their faces meet at less
/// than `creaseRadians`; vertices are split at harder edges.
Mesh withNormals(const Mesh& mesh, double creaseRadians = 0.7, NormalWeight weight = NormalWeight::Angle);

/// The mesh turned inside out: every triangle the other way round, normals and tangents along.
Mesh turnedInsideOut(Mesh mesh);

/// Unnormalised face normal (length is twice the area).
glm::vec3 faceNormal(const Mesh& mesh, std::size_t triangle);

} // namespace zl::geometry
