#pragma once
#include "core/install/game_folder.h"

namespace zl::install {

/// Whether deliveries of a format go onto a shelf of a game's folder: each has a folder of its own there, by
/// its name, or is one file among others.
bool goesOnShelf(std::string_view format);
/// Whether a game's folder has the shelf that such deliveries go onto.
bool takesOnShelf(const std::filesystem::path& game, std::string_view format);
/// Ends what a killed program began where such deliveries go.
void finishShelves(const std::filesystem::path& game);

/// A delivery and what it is, by the file that describes it; nothing when it is none for a shelf.
struct Delivered {
    std::string format, name;
};
std::optional<Delivered> shelfDelivery(const std::filesystem::path& folder);

/// Whatever the game has under that name becomes an entry of its own; an earlier installation is brought up
/// to date, and its original stays kept.
void ontoShelf(GameFolder& game, const Delivered& what, const std::filesystem::path& folder,
               const Wishes& wishes);
void offShelf(GameFolder& game, const Journal& journal, const Wishes& wishes);

} // namespace zl::install
