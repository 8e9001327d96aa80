#pragma once
#include "core/selection/chosen.h"
#include "core/selection/grown.h"

namespace zl::selection {

/// How chosen triangles become objects of their own.
struct CutOut {
    std::string name;   ///< of the new objects; empty calls each after the one it comes from
    bool stays = false; ///< the object that they come from keeps them too
    Border border = Border::AsChosen;
};

/// Gives the chosen triangles of each object an object of their own: beside it, or below it where a clip
/// moves it or bones hang on it, so that both move alike. Corners on the border belong to both sides with
/// everything that they have, so neither a gap nor a seam shows: where the mesh has no normals and is smooth,
/// both sides get those of the whole. Corners and triangles keep their order. Objects that are chosen wholly
/// are objects of their own already: they are renamed at most. `made`, when given, receives the nodes of the
/// new objects and of those that were chosen wholly.
Model cutOut(const Model& model, const Chosen& chosen, const CutOut& how, std::vector<int>* made = nullptr);

/// Which side's corners hold where both come together again and stand apart.
enum class Weld { Part, Rest, Middle };

/// Puts parts that were cut out back into the objects that they came from: those of the nodes that `wanted`
/// marks.
/// Where both sides have their triangles still, everything is in its old order with what each side has now,
/// and a part that nothing was done to leaves the object byte for byte as it was. Otherwise the part's
/// triangles come behind the object's, corners that are alike become one, and `notes` says so; a part whose
/// object is gone stays, and `notes` says that.
Model joinedBack(const Model& model, const std::vector<char>& wanted, Weld weld,
                 std::vector<std::string>* notes = nullptr);

} // namespace zl::selection
