#pragma once
#include <filesystem>
#include <string>
#include <vector>

namespace zl::upload {

/// What a delivered folder holds to be uploaded, one request each: in the order in which it is to go.
struct Cargo {
    struct Picture {
        std::string file, hash; ///< SHA-256, which the server knows it by
        std::size_t bytes = 0;
    };
    struct Part {
        int number = 0;
        std::string name;
        std::string body; ///< as the server takes it
    };
    std::string name; ///< of the build, and of the folder for its pictures
    std::string hash; ///< of all of it
    std::filesystem::path folder;
    std::vector<Picture> pictures; ///< each once
    std::vector<Part> groups, solids;

    std::size_t pieces() const { return pictures.size() + groups.size() + solids.size(); }
    std::size_t bytes() const;
};

/// Reads NAME.scene.xml and its pictures. Throws Error where there is not exactly one scene, a picture is
/// missing, or a name would lead out of the folder.
Cargo cargoIn(const std::filesystem::path& folder);

} // namespace zl::upload
