#pragma once
#include "core/model/model.h"
#include "core/contact/touch.h"

namespace zl::contact {

/// Gives the model's bodies the surface kinds of the faces that they stand for: each face of a surface with
/// hollows that of the nearest shown face, any other body one kind, that of most of the area nearest to it.
/// Bodies of a model without kinds are left as they are. Linear in faces, times bodies for the second.
void surfacesOntoBodies(Model& model);

/// What the names of materials say they are made of, by the platform's hints: index of the material to the
/// kind's name. Materials whose names say nothing, or two things, are not in it.
std::map<int, std::string> guessedSurfaces(const Model& model, const Touch& touch);

/// Faces by kind (index into Model::surfaceKinds, -1 for none) of what the model shows, and of its bodies.
struct SurfaceCounts {
    std::map<int, std::size_t> shown, bodies;
    /// Those that a game would use: the bodies', where there are any.
    const std::map<int, std::size_t>& used() const { return bodies.empty() ? shown : bodies; }
};
SurfaceCounts surfaceCounts(const Model& model);

} // namespace zl::contact
