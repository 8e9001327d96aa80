#pragma once
#include "core/install/game_folder.h"

namespace zl::platform {
struct Sheet;
}

namespace zl::install {

/// The format of journals of what a sheet itself says.
inline constexpr std::string_view ownFormat = "files";

/// Whether a sheet says where in the game's folder its files go: `[deliver] installed`, or a `[[table]]`.
bool saysWhere(const platform::Sheet& sheet);

/// A delivery to where its sheet says: entries go into the game's own tables, all else into the folder. A
/// file of the game that stands there is kept, and an entry of the same key noted.
void asSheetSays(GameFolder& game, const platform::Sheet& sheet, const std::string& name,
                 const std::filesystem::path& delivered, const Wishes& wishes);
void outAsItCame(GameFolder& game, const Journal& journal, const Wishes& wishes);

/// The keys of the rows that an installation put into a table and that still stand in `text`.
std::vector<std::string> rowsIn(const std::string& text, const std::string& path, const Journal& journal);

} // namespace zl::install
