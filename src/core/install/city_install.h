#pragma once
#include "core/install/city.h"
#include "core/install/game_folder.h"

namespace zl::install {

class Edits;

inline constexpr std::string_view cityFormat = "city-object";

/// A delivery for a city: the same files as the city's own, with one object's lines and entries.
struct CityObject {
    std::string name, by;
    int collisionLimit = 0; ///< files with bodies that the city holds, everybody's together; 0 for any number
    std::vector<OutFile> entries; ///< of the archive
    Definition definition;
    std::vector<CityPlace> places;

    bool hasBody() const;
};

/// The delivery in a folder, by its NAME.object.json; nothing when it is none of a city. Throws Error for one
/// that is not whole.
std::optional<CityObject> cityDelivery(const std::filesystem::path& folder);

/// Adds an object to the archive, the definitions and the placements; what was installed of it before is
/// taken out first. Every file that is touched is kept as it was beside the journal.
void intoCity(GameFolder& game, const CityObject& object, const Wishes& wishes);
/// Files that nobody has touched since become what they were, byte for byte; from others only what was added
/// goes.
void outOfCity(GameFolder& game, const Journal& journal, const Wishes& wishes);
/// The same with files that are edited already.
void takeOutOf(GameFolder& game, Edits& edits, const Journal& journal, const Wishes& wishes);

} // namespace zl::install
