#pragma once
#include <nlohmann/json.hpp>

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

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

/// A stand-in: loads a delivered folder, refuses like the game, runs its tests without a window, and shows
/// the rest on an arena. Loading puts messages into `report`, and gives no arena when there is nothing to
/// show.
struct StandIn {
    std::string_view id;
    std::string_view name;
    std::string_view unit; ///< what its lengths are in
    TryReport (*tryFolder)(const std::filesystem::path& folder) = nullptr;
    std::unique_ptr<world::Arena> (*open)(const std::filesystem::path& folder, TryReport& report) = nullptr;
};

const std::vector<StandIn>& allStandIns();
std::vector<std::string_view> standInIds();
/// Null when there is none of that id.
const StandIn* standInNamed(std::string_view id);

} // namespace zl::standins
