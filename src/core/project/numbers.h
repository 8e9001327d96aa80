#pragma once
#include "core/platform/sheet.h"
#include "core/project/project.h"

#include <map>

namespace zl::project {

/// The numbers that the project's other pieces have in a platform's world (the step Number), and whose each
/// is: those that are given, and those that pieces before this one take by themselves, each the first of the
/// platform's that is free.
std::map<int, std::string> numbersOfOthers(const Project& project, const Piece& piece,
                                           const platform::Sheet& sheet);

/// The number that the piece asks for there: 0 for the first that is free, nothing where it has no such step.
std::optional<int> numberAskedFor(const Piece& piece, std::string_view platform);

} // namespace zl::project
