#include "standins/region/region_store.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/base/plain_number.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <sodium.h>
#include <stb_image.h>

#include <algorithm>
#include <memory>

namespace fs = std::filesystem;

namespace zl::standins::region {

namespace {

constexpr std::size_t mostFileBytes = 1u << 20;

std::string sha256(std::string_view bytes) {
    unsigned char hash[crypto_hash_sha256_BYTES];
    crypto_hash_sha256(hash, reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size());
    std::string out;
    for (const unsigned char byte : hash) out += fmt::format("{:02x}", byte);
    return out;
}

[[noreturn]] void deny(int status, std::string why) {
    throw Denied{status, std::move(why)};
}

void demandPicture(std::string_view bytes) {
    if (bytes.size() > mostPictureBytes) deny(413, "a picture of more than 1 MB is not taken");
    const auto* data = reinterpret_cast<const stbi_uc*>(bytes.data());
    int width = 0, height = 0, channels = 0;
    if (!stbi_info_from_memory(data, int(bytes.size()), &width, &height, &channels))
        deny(415, "that is no picture");
    if (width > mostPictureEdge || height > mostPictureEdge)
        deny(413, fmt::format("a picture of {} × {} is too large: {} pixels a side are taken", width, height,
                              mostPictureEdge));
    const std::unique_ptr<stbi_uc, void (*)(void*)> pixels(
        stbi_load_from_memory(data, int(bytes.size()), &width, &height, &channels, 4), stbi_image_free);
    if (!pixels) deny(415, "the picture breaks off");
}

/// The number in "solid-12.xml".
std::optional<int> numberIn(const std::string& name, std::string_view kind, std::string_view ending) {
    if (!name.starts_with(kind) || !name.ends_with(ending)) return std::nullopt;
    return onlyNumber<int>(
        std::string_view(name).substr(kind.size(), name.size() - kind.size() - ending.size()));
}

int placesOf(const WholeBuild& build) {
    int out = 0;
    for (const auto& [number, solid] : build.solids) out += solid.isShaped ? placesOfShaped : 1;
    return out;
}

} // namespace

RegionStore::RegionStore(fs::path folder) : folder_(std::move(folder)) {
    for (const char* region : {"test", "main"}) fs::create_directories(folder_ / "regions" / region);
    fs::create_directories(folder_ / "inventory");
    if (sodium_init() < 0) throw Error("the library for hashes cannot start");
}

bool RegionStore::isName(std::string_view text) {
    return !text.empty() && text.size() <= 80 && text.front() != '-' && std::ranges::all_of(text, [](char c) {
        return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '-';
    });
}
bool RegionStore::isHash(std::string_view text) {
    return text.size() == 64 &&
           std::ranges::all_of(text, [](char c) { return (c >= 'a' && c <= 'f') || (c >= '0' && c <= '9'); });
}

bool RegionStore::makeFolder(const std::string& account, const std::string& folder) {
    const std::lock_guard lock(mutex_);
    return fs::create_directories(folder_ / "inventory" / account / folder);
}

std::optional<std::vector<std::string>> RegionStore::picturesIn(const std::string& account,
                                                                const std::string& folder) const {
    const std::lock_guard lock(mutex_);
    const fs::path in = folder_ / "inventory" / account / folder;
    if (!fs::exists(in)) return std::nullopt;
    std::vector<std::string> out;
    for (const auto& entry : fs::directory_iterator(in))
        if (const std::string name = entry.path().filename().string(); isHash(name)) out.push_back(name);
    std::ranges::sort(out);
    return out;
}

bool RegionStore::keepPicture(const std::string& account, const std::string& folder, const std::string& hash,
                              std::string_view bytes) {
    if (sha256(bytes) != hash) deny(422, "the picture is not what its hash says");
    demandPicture(bytes);
    const std::lock_guard lock(mutex_);
    const fs::path in = folder_ / "inventory" / account / folder, file = in / hash;
    if (!fs::exists(in)) deny(404, "there is no such folder");
    if (fs::exists(file)) return false;
    std::size_t held = 0;
    for (const auto& entry : fs::recursive_directory_iterator(folder_ / "inventory" / account))
        if (entry.is_regular_file()) held += entry.file_size();
    if (held + bytes.size() > mostInventoryBytes) deny(507, "the inventory is full");
    writeFile(file, bytes);
    return true;
}

std::optional<std::string> RegionStore::picture(const std::string& hash) const {
    const std::lock_guard lock(mutex_);
    for (const auto& account : fs::directory_iterator(folder_ / "inventory"))
        for (const auto& in : fs::directory_iterator(account.path()))
            if (fs::exists(in.path() / hash)) return readText(in.path() / hash, mostPictureBytes);
    return std::nullopt;
}

fs::path RegionStore::tryFolder(const std::string& region, const std::string& build,
                                const std::string& hash) const {
    return folder_ / "regions" / region / build / hash;
}

void RegionStore::begin(const std::string& region, const std::string& build, const std::string& hash,
                        const std::string& account) {
    const std::lock_guard lock(mutex_);
    const fs::path folder = tryFolder(region, build, hash);
    fs::create_directories(folder);
    if (!fs::exists(folder / "account")) writeFile(folder / "account", account);
}

void RegionStore::keepSolid(const std::string& region, const std::string& build, const std::string& hash,
                            int number, std::string_view xml) {
    BuiltSolid solid;
    try {
        solid = readSolid(xml);
    } catch (const Error& error) {
        deny(422, fmt::format("solid {}: {}", number, error.what()));
    }
    if (solid.number != number) deny(422, "the solid has another number");
    for (const auto& [face, picture] : solid.pictures)
        if (!isHash(picture) || !this->picture(picture))
            deny(422, fmt::format("solid {}: the picture of a face is not in the inventory", number));
    const std::lock_guard lock(mutex_);
    const fs::path folder = tryFolder(region, build, hash);
    if (!fs::exists(folder)) deny(409, "the build was not begun");
    if (fs::exists(folder / "done")) return;
    std::size_t solids = 0;
    for (const auto& entry : fs::directory_iterator(folder))
        solids += entry.path().filename().string().starts_with("solid-");
    if (solids > std::size_t(mostPlaces)) deny(507, "a region holds no more solids");
    writeFile(folder / fmt::format("solid-{}.xml", number), xml);
}

void RegionStore::keepGroup(const std::string& region, const std::string& build, const std::string& hash,
                            int number, const BuiltGroup& group) {
    if (group.name.size() > 200) deny(422, "the group's name is too long");
    const std::lock_guard lock(mutex_);
    const fs::path folder = tryFolder(region, build, hash);
    if (!fs::exists(folder)) deny(409, "the build was not begun");
    if (fs::exists(folder / "done")) return;
    const nlohmann::json said{{"name", group.name}, {"within", group.within}, {"lead", group.lead}};
    writeFile(folder / fmt::format("group-{}.json", number),
              said.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
}

std::optional<RegionStore::Progress>
RegionStore::progressOf(const std::string& region, const std::string& build, const std::string& hash) const {
    const std::lock_guard lock(mutex_);
    const fs::path folder = tryFolder(region, build, hash);
    if (!fs::exists(folder)) return std::nullopt;
    Progress out;
    out.done = fs::exists(folder / "done");
    for (const auto& entry : fs::directory_iterator(folder)) {
        const std::string name = entry.path().filename().string();
        if (const auto number = numberIn(name, "solid-", ".xml")) out.solids.insert(*number);
        if (const auto number = numberIn(name, "group-", ".json")) out.groups.insert(*number);
    }
    return out;
}

WholeBuild RegionStore::read(const fs::path& folder, const std::string& name, const std::string& hash) const {
    WholeBuild out{name, hash, {}, {}, {}};
    for (const auto& entry : fs::directory_iterator(folder)) {
        const std::string file = entry.path().filename().string();
        if (const auto number = numberIn(file, "solid-", ".xml"))
            out.solids[*number] = readSolid(out.texts[*number] = readText(entry.path(), mostFileBytes));
        if (const auto number = numberIn(file, "group-", ".json")) {
            const auto said = nlohmann::json::parse(readText(entry.path(), mostFileBytes));
            out.groups[*number] = {said["name"], said["within"], said["lead"]};
        }
    }
    return out;
}

int RegionStore::finish(const std::string& region, const std::string& build, const std::string& hash,
                        std::size_t solids, std::size_t groups) {
    const int taken = placesTaken(region, build);
    const std::lock_guard lock(mutex_);
    const fs::path folder = tryFolder(region, build, hash);
    if (!fs::exists(folder)) deny(409, "the build was not begun");
    const WholeBuild whole = read(folder, build, hash);
    if (whole.solids.size() != solids || whole.groups.size() != groups)
        deny(409, fmt::format("{} of {} solids and {} of {} groups are here", whole.solids.size(), solids,
                              whole.groups.size(), groups));
    std::map<int, std::size_t> counts;
    for (const auto& [number, group] : whole.groups) {
        if (group.within != 0 && !whole.groups.contains(group.within))
            deny(422, fmt::format("group {} is in a group that is not there", number));
        if (group.lead != 0 && !whole.solids.contains(group.lead))
            deny(422, fmt::format("group {} goes by a solid that is not there", number));
    }
    for (const auto& [number, solid] : whole.solids) {
        int group = solid.group;
        std::size_t steps = 0;
        while (group != 0) {
            const auto found = whole.groups.find(group);
            if (found == whole.groups.end()) deny(422, fmt::format("solid {} is in no group", number));
            if (found->second.within == 0) break;
            group = found->second.within;
            if (++steps > whole.groups.size()) deny(422, "a group is within itself");
        }
        if (group != 0 && ++counts[group] > mostInGroup)
            deny(422, fmt::format("group {} has more than {} solids", group, mostInGroup));
    }
    const int places = placesOf(whole);
    if (taken + places > mostPlaces)
        deny(507, fmt::format("the region is full: {} of {} places are taken, and this takes {}", taken,
                              mostPlaces, places));
    writeFile(folder / "done", "done\n");
    // From here on it stands; what stood under its name goes.
    for (const auto& other : fs::directory_iterator(folder.parent_path()))
        if (other.path().filename() != hash) fs::remove_all(other.path());
    return places;
}

std::vector<std::string> RegionStore::builds(const std::string& region) const {
    const std::lock_guard lock(mutex_);
    std::vector<std::string> out;
    for (const auto& build : fs::directory_iterator(folder_ / "regions" / region))
        for (const auto& one : fs::directory_iterator(build.path()))
            if (fs::exists(one.path() / "done")) out.push_back(build.path().filename().string());
    std::ranges::sort(out);
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

std::optional<WholeBuild> RegionStore::build(const std::string& region, const std::string& name) const {
    const std::lock_guard lock(mutex_);
    std::error_code none;
    for (const auto& one : fs::directory_iterator(folder_ / "regions" / region / name, none))
        if (fs::exists(one.path() / "done")) return read(one.path(), name, one.path().filename().string());
    return std::nullopt;
}

int RegionStore::placesTaken(const std::string& region, const std::string& except) const {
    int out = 0;
    for (const std::string& name : builds(region))
        if (name != except)
            if (const auto whole = build(region, name)) out += placesOf(*whole);
    return out;
}

} // namespace zl::standins::region
