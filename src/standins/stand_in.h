#pragma once
#include "core/base/progress.h"
#include "core/upload/secret.h"

#include <nlohmann/json.hpp>

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace zl::platform {
struct FileTerms;
}

namespace zl::standins {

namespace world {
class Arena;
}

/// What a stand-in says of delivered files, in the manner of the game it stands for.
struct Message {
    enum class Kind { Fine, Odd, Refused } kind = Kind::Fine;
    std::string file;   ///< which file it is about; may be empty
    std::string text;   ///< what was found
    std::string detail; ///< which limit, how far over, what mends it
};

struct TryReport {
    bool accepted = false;
    std::vector<Message> messages;
    nlohmann::ordered_json tests = nlohmann::ordered_json::object(); ///< measured numbers by test name
    std::vector<std::string_view> lengths; ///< which of them are lengths, in the stand-in's unit
};

/// Who goes where, for stand-ins that are a server: a region's viewer, say.
struct Visit {
    std::string url, user, place;
    upload::Secret password;
};

/// A stand-in: loads a delivered folder, refuses like the game, runs its tests without a window, and shows
/// the rest on an arena. Loading puts messages into `report`, and gives no arena when there is nothing to
/// show.
struct StandIn {
    std::string_view id;
    std::string_view name;
    std::string_view unit; ///< what its lengths are in
    TryReport (*tryFolder)(const std::filesystem::path& folder) = nullptr;
    std::unique_ptr<world::Arena> (*open)(const std::filesystem::path& folder, TryReport& report) = nullptr;
    /// What it is where it takes this folder otherwise than most; null where it is always the same.
    std::string_view (*nameFor)(const std::filesystem::path& folder) = nullptr;
    /// Logs in where it runs as a server, and shows what stands there; null where it is none. Throws Refused
    /// with the server's reason, Error and Cancelled.
    std::unique_ptr<world::Arena> (*visit)(Visit visit, TryReport& report,
                                           const Progress& progress) = nullptr;
    std::string_view places = {}; ///< that can be visited, separated by spaces
    /// The same as the first two where it holds files to what their sheet says of them, and not to a game's
    /// own limits; null where it knows its game.
    TryReport (*tryUnder)(const std::filesystem::path& folder, const platform::FileTerms& terms) = nullptr;
    std::unique_ptr<world::Arena> (*openUnder)(const std::filesystem::path& folder,
                                               const platform::FileTerms& terms, TryReport& report) = nullptr;

    TryReport tried(const std::filesystem::path& folder, const platform::FileTerms& terms) const {
        return tryUnder ? tryUnder(folder, terms) : tryFolder(folder);
    }

    std::string_view calledFor(const std::filesystem::path& folder) const {
        return nameFor ? nameFor(folder) : name;
    }
};

const std::vector<StandIn>& allStandIns();
std::vector<std::string_view> standInIds();
/// Null when there is none of that id.
const StandIn* standInNamed(std::string_view id);

} // namespace zl::standins
