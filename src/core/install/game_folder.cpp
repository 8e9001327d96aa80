#include "core/install/game_folder.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>
#include <sys/stat.h>
#include <unistd.h>

namespace fs = std::filesystem;

namespace zl::install {

GameFolder::GameFolder(const fs::path& folder, const std::function<void()>& finish) : folder_(folder) {
    work_.game_ = folder;
    std::error_code error;
    if (!fs::is_directory(folder, error))
        throw Error("is no folder", folder.string(), "Choose the game's own folder.");
    finish();
}

std::optional<Hash> GameFolder::hashAt(const std::string& path) const {
    std::error_code error;
    if (!fs::is_regular_file(fs::symlink_status(folder_ / path, error))) return std::nullopt;
    return hashFile(folder_ / path);
}

std::string GameFolder::bytesAt(const std::string& path) const {
    return readText(folder_ / path, mostGameBytes);
}

void GameFolder::refuseLink(const std::string& path) {
    std::error_code error;
    fs::path at = folder_;
    for (const fs::path& part : fs::path(path)) {
        at /= part;
        if (!fs::is_symlink(fs::symlink_status(at, error))) continue;
        if (told_.insert("link " + at.string()).second) say(fmt::format("{} leads elsewhere", at.string()));
        return;
    }
}

bool GameFolder::isReadOnly(const fs::path& path) const {
    struct stat status {};
    if (::lstat(path.c_str(), &status) != 0) return false;
    return (status.st_mode & 0222) == 0 || ::access(path.c_str(), W_OK) != 0;
}

void GameFolder::refuseReadOnly(const fs::path& path) {
    const std::string name = path.lexically_relative(folder_).generic_string();
    if (std::ranges::find(work_.writable_, name) != work_.writable_.end()) return;
    if (isReadOnly(path) && told_.insert(path.string()).second) {
        say(fmt::format("{} is read-only", name));
        work_.plan_.readOnly.push_back(name);
    }
}

void GameFolder::refuseReadOnlyAbove(const std::string& path) {
    std::error_code error;
    fs::path above = (folder_ / path).parent_path();
    while (above != folder_ && !fs::exists(above, error)) above = above.parent_path();
    refuseReadOnly(above);
}

void GameFolder::write(const std::string& path, std::string bytes, Change::Kind fresh,
                       std::vector<std::string> details) {
    const auto there = hashAt(path);
    const auto kind = !there ? fresh : fresh == Change::Kind::Extended ? fresh : Change::Kind::Replaced;
    refuseLink(path);
    refuseReadOnlyAbove(path);
    refuseReadOnly(folder_ / path);
    if (there == hashText(bytes)) return; // it is there already
    work_.plan_.changes.push_back({kind, path, bytes.size(), std::move(details)});
    work_.writes_.push_back({path, std::move(bytes)});
}

void GameFolder::leave(const std::string& path) {
    if (!hashAt(path)) return;
    refuseLink(path);
    refuseReadOnlyAbove(path);
    refuseReadOnly(folder_ / path);
    work_.plan_.changes.push_back({Change::Kind::Removed, path, 0, {}});
    work_.leaving_.push_back(path);
}

void GameFolder::refuseChanged(const std::map<std::string, Hash>& files, const Wishes& wishes) {
    if (wishes.losesChanges) return;
    std::vector<std::string> changed;
    for (const auto& [path, hash] : files)
        if (const auto now = hashAt(path); now && *now != hash) changed.push_back(path);
    if (!changed.empty())
        say(fmt::format("{} changed since it was installed: {}",
                        changed.size() == 1 ? "A file has" : "Files have", showNames(changed)));
}

void GameFolder::refuseWithoutRoom() {
    std::size_t needed = 0;
    for (const OutFile& file : work_.writes_) needed += file.bytes.size();
    std::error_code error;
    const auto space = fs::space(folder_, error);
    if (!error && space.available < needed)
        say(fmt::format("There is no room: {} are needed and {} are free", showBytes(double(needed)),
                        showBytes(double(space.available))));
}

} // namespace zl::install
