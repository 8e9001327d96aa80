#pragma once
#include "core/learn/layout.h"

#include <nlohmann/json.hpp>

namespace zl::learn {

/// What templates can name, as far as the files of a group say it: the same names as deliver::pieceData has
/// them. What files do not say is left out; the piece's own name is its files'. `title` is how the texts
/// write the piece's name, where they do ("Tide bell" of tide-bell.obj).
nlohmann::json groupData(const Group& group, const std::vector<FileFacts>& files, const std::string& title);

/// How the texts of a group write its name: a field whose text becomes the files' name in some style. Where
/// there is none, the words of the files' name: "Tide bell" of tide-bell.obj, or of TideBell.obj.
std::string titleOf(const Group& group, const std::vector<FileFacts>& files);

} // namespace zl::learn
