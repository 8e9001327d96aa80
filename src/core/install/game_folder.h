#pragma once
#include "core/install/install.h"

#include <functional>
#include <set>

namespace zl::install {

/// A game's folder while a change of it is put together: nothing is written before it is carried out. What
/// stands in the way becomes a problem of the plan.
class GameFolder {
public:
    /// `finish` ends what a killed program began. Throws Error for what is no folder.
    GameFolder(const std::filesystem::path& folder, const std::function<void()>& finish);

    const std::filesystem::path& path() const { return folder_; }
    Plan& plan() { return work_.plan_; }
    void say(std::string problem) { work_.plan_.problems.push_back(std::move(problem)); }

    std::optional<Hash> hashAt(const std::string& path) const;
    /// The whole file; throws Error when it cannot be read.
    std::string bytesAt(const std::string& path) const;

    void refuseLink(const std::string& path);
    /// Files that others have changed since they were put there so.
    void refuseChanged(const std::map<std::string, Hash>& files, const Wishes& wishes);
    void refuseWithoutRoom();

    /// A file that is to be there with these bytes; `details` say what is new in it.
    void write(const std::string& path, std::string bytes, Change::Kind fresh = Change::Kind::Added,
               std::vector<std::string> details = {});
    /// A file that is to go.
    void leave(const std::string& path);
    /// The same for what is the program's own and no change of the game.
    void writeOwn(OutFile file) { work_.writes_.push_back(std::move(file)); }
    void leaveOwn(const std::string& path) { work_.leaving_.push_back(path); }
    /// A file of the game that is read-only and need not stay so; given back its rights is one that was.
    void makeWritable(const std::string& path) { work_.writable_.push_back(path); }
    void makeReadOnly(const std::string& path) { work_.readOnly_.push_back(path); }
    /// A file or folder is read-only when nobody may write it, whoever asks.
    bool isReadOnly(const std::filesystem::path& path) const;

    Prepared take() { return std::move(work_); }

private:
    void refuseReadOnly(const std::filesystem::path& path);
    /// The nearest folder above a path that is there already.
    void refuseReadOnlyAbove(const std::string& path);

    std::filesystem::path folder_;
    Prepared work_;
    std::set<std::string> told_;
};

/// The largest file of a game that is read.
inline constexpr std::size_t mostGameBytes = std::size_t(2) << 30;

} // namespace zl::install
