#pragma once
#include "standins/region/built_solid.h"

#include <filesystem>
#include <mutex>
#include <optional>
#include <set>
#include <vector>

namespace zl::standins::region {

inline constexpr int mostPlaces = 5000;         ///< of a region
inline constexpr std::size_t mostInGroup = 200; ///< solids, with what is in groups within
inline constexpr int mostPictureEdge = 256;     ///< pixels
inline constexpr std::size_t mostPictureBytes = 1u << 20;
inline constexpr std::size_t mostInventoryBytes = 256u << 20; ///< of an account
inline constexpr int placesOfShaped = 2;

/// Why a request is not done, as an HTTP status says it.
struct Denied {
    int status;
    std::string why;
};

struct BuiltGroup {
    std::string name;
    int within = 0, lead = 0;
};

/// What a build consists of, once it is whole.
struct WholeBuild {
    std::string name, hash;
    std::map<int, BuiltSolid> solids;
    std::map<int, BuiltGroup> groups;
    std::map<int, std::string> texts; ///< of the solids, as they were sent
};

/// What the regions and inventories hold: files in a folder, each written whole, so that a server that is
/// killed goes on where it was. May be asked by several threads. Names are letters, digits and hyphens.
class RegionStore {
public:
    explicit RegionStore(std::filesystem::path folder);

    static bool isName(std::string_view text);
    static bool isHash(std::string_view text); ///< 64 hexadecimal digits

    // Inventories. True where it is new.
    bool makeFolder(const std::string& account, const std::string& folder);
    /// Refuses bytes of another hash, other kinds of picture and larger ones.
    bool keepPicture(const std::string& account, const std::string& folder, const std::string& hash,
                     std::string_view bytes);
    /// The hashes of what is in a folder; nothing where there is no such folder.
    std::optional<std::vector<std::string>> picturesIn(const std::string& account,
                                                       const std::string& folder) const;
    std::optional<std::string> picture(const std::string& hash) const;

    // Builds: begun, filled, done. The hash tells one try from another.
    void begin(const std::string& region, const std::string& build, const std::string& hash,
               const std::string& account);
    void keepSolid(const std::string& region, const std::string& build, const std::string& hash, int number,
                   std::string_view xml);
    void keepGroup(const std::string& region, const std::string& build, const std::string& hash, int number,
                   const BuiltGroup& group);
    struct Progress {
        bool done = false;
        std::set<int> solids, groups;
    };
    /// Nothing where no such try was begun.
    std::optional<Progress> progressOf(const std::string& region, const std::string& build,
                                       const std::string& hash) const;
    /// Checks the whole and puts it in the place of what stood there under the name. The places it takes.
    int finish(const std::string& region, const std::string& build, const std::string& hash,
               std::size_t solids, std::size_t groups);

    std::vector<std::string> builds(const std::string& region) const;
    std::optional<WholeBuild> build(const std::string& region, const std::string& name) const;
    int placesTaken(const std::string& region, const std::string& except = {}) const;

private:
    std::filesystem::path tryFolder(const std::string& region, const std::string& build,
                                    const std::string& hash) const;
    WholeBuild read(const std::filesystem::path& folder, const std::string& name,
                    const std::string& hash) const;

    std::filesystem::path folder_;
    mutable std::mutex mutex_;
};

} // namespace zl::standins::region
