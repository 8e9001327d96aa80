#pragma once
#include "standins/world/files.h"

namespace zl::standins::site {

/// An object of a pack on its way through the site's check.
struct PackObject {
    world::Item item; ///< in the site's units
    std::string file, pictureName;
    std::size_t triangles = 0;
    std::string refusal;         ///< empty when the check lets it pass
    bool pictureMissing = false; ///< it waits for its picture
};

struct Pack {
    std::string name, credit;
    std::filesystem::path folder;
    std::vector<PackObject> objects;

    std::size_t refused() const;
    std::vector<std::string> missingPictures() const;
    /// Looks for missing pictures once more: under their name in pictures/ or beside the pack, without regard
    /// to case. Returns how many were found and linked.
    std::size_t linkPictures(TryReport& report);
};

/// Reads pack.json and every file it names. Nothing when the pack itself cannot be read; single objects that
/// the site refuses carry their reason.
std::optional<Pack> loadPack(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::site
