#pragma once
#include "core/base/progress.h"
#include "core/base/csv_table.h"

#include <glm/glm.hpp>
#include <glm/gtc/quaternion.hpp>

#include <filesystem>
#include <map>

namespace zl::install {

/// Names of the files that an open-world city's folder is made of (docs/formats/city-object.md).
inline constexpr std::string_view cityArchive = "objects.zip", cityDefinitions = "definitions.csv",
                                  cityDistricts = "districts.csv", cityPlacements = "placements";

/// The largest collision file that is read.
inline constexpr std::size_t mostContactBytes = 16u << 20;

/// A part of the city: what lies within these bounds, in the city's own metres.
struct District {
    std::string name;
    glm::dvec2 least{0}, most{0};
    bool has(const glm::dvec2& at) const {
        return at.x >= least.x && at.x < most.x && at.y >= least.y && at.y < most.y;
    }
};

/// What the city says of an object.
struct Definition {
    std::string name;
    int number = 0;
    std::string pictures;
    double viewDistance = 0;
    std::vector<std::string> traits;
    std::size_t line = 0;
};

/// Where an object stands, in the city's own axes (Z up) and metres.
struct CityPlace {
    std::string name;
    glm::dvec3 at{0};
    glm::dquat turn{1, 0, 0, 0};
    std::string district;
    std::string file; ///< the table that it is in
    std::size_t line = 0;
};

/// A contact file of the archive: what physics uses of one object, or of several.
struct CollisionFile {
    std::string name; ///< in the archive
    std::string by;   ///< whose it is; empty where it does not say
    std::vector<std::string> bodies;
};

/// Everything in a city's folder: of the game and of others.
struct City {
    std::filesystem::path folder;
    std::vector<District> districts;
    std::vector<Definition> definitions;
    std::vector<CityPlace> places;
    std::vector<CollisionFile> collisionFiles;
    std::map<std::string, std::size_t> entries; ///< of the archive, with their sizes
    std::vector<std::string> problems;          ///< what could not be read, each with file and line

    /// The first district that a place is in; null where it is in none.
    const District* districtAt(const glm::dvec2& at) const;
    const Definition* definitionOf(std::string_view name) const;
    const Definition* withNumber(int number) const;
    /// The collision file that holds an object's body; null when none does.
    const CollisionFile* collisionOf(std::string_view name) const;
    /// The first number from `least` to `most` that no definition and none of `others` has; 0 when none is
    /// left.
    int freeNumber(int least, int most, const std::vector<int>& others = {}) const;
};

/// Whether a folder is that of a city: it has a table of definitions and an archive, or half of that.
bool isCity(const std::filesystem::path& folder);

/// Reads all of it; what is missing or broken is a problem, and the rest is there. Throws Error for what is
/// no folder of a city, and Cancelled.
City readCity(const std::filesystem::path& folder, const Progress& progress = {});

/// The table files of placements in a folder, by name; the one of a district is `placements-NAME.csv`.
std::vector<std::string> placementFiles(const std::filesystem::path& folder);
std::string placementFileOf(const std::string& district);

} // namespace zl::install
