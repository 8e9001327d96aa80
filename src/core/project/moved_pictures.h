#pragma once
#include "core/project/project.h"

namespace zl::project {

/// A picture that a step names and that is not where it was, with one of the same name elsewhere.
struct MovedPicture {
    std::string was; ///< as the step names it
    std::string is;  ///< as it would name it now
    bool operator==(const MovedPicture&) const = default;
};

/// The pictures that a piece's steps name, on any platform, and that are not there any more, with the one of
/// the same file name (also without regard to case) among `found`, whole paths; where several are called so,
/// the first by path. Those of which there is none are left out.
std::vector<MovedPicture> movedPictures(const Project& project, const Piece& piece,
                                        const std::vector<std::filesystem::path>& found);

/// The piece with those pictures named where they are now.
Piece relinked(Piece piece, const std::vector<MovedPicture>& moved);

} // namespace zl::project
