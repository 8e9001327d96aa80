#pragma once
#include "core/project/project.h"

namespace zl::project {

/// Where an item goes on a figure: on a bone, at the place that it claims; without a bone beside it.
struct Worn {
    std::string figure; ///< name of the piece
    std::string bone, place;
};

/// Adds a row for the piece `item` to the figure's step *Put on* or *Set beside*: to each that is there, on
/// whatever platform, else to a new one in the figure's own recipe. Nothing for a row that is there already.
void putOn(Piece& figure, const std::string& item, const Worn& worn);

} // namespace zl::project
