#pragma once
#include "core/base/units.h"

#include <filesystem>
#include <string>
#include <vector>

namespace zl::platform {

struct Sheet;

/// What a sheet says of delivered files, in plain data, for whoever tries them without knowing sheets.
struct FileTerms {
    std::string platform, unitName = "m";
    double metres = 1;     ///< of one unit as people have it there
    double fileMetres = 1; ///< of one unit in the files
    Up up = Up::Y;
    std::string front = "+Z";
    double figureHeight = 1.75; ///< units

    /// A path, `*` for its places, that has to be there; or may be, where `optional`.
    struct Wanted {
        std::string pattern;
        bool optional = false;
    };
    std::vector<Wanted> wanted;

    // Limits, 0 and empty for none.
    double triangles = 0, corners = 0, objects = 0, materials = 0, pictureEdge = 0, bytes = 0;
    double leastHeight = 0, mostHeight = 0; ///< units
    double floorWithin = -1;                ///< units; below 0: it may stand anywhere
    bool powerOfTwo = false, namesOnce = false;
    std::string namePattern, nameWords; ///< POSIX extended, of objects and materials
    std::string filePattern, fileWords; ///< of picture files

    std::filesystem::path like; ///< a folder, or a file, that the game takes; empty where none is known
};

/// What a sheet says of files. `musts` alone are limits; advice refuses nothing.
FileTerms fileTerms(const Sheet& sheet);

} // namespace zl::platform
