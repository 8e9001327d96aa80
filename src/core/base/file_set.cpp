#include "core/base/file_set.h"

#include "core/base/error.h"
#include "core/base/file_bytes.h"
#include "core/base/whole_file.h"

#include <fmt/format.h>

#include <cctype>
#include <cerrno>
#include <set>
#include <sys/stat.h>

namespace fs = std::filesystem;

namespace zl {

namespace {

constexpr unsigned usualMode = 0644;

fs::path insideFolder(const fs::path& folder, const std::string& name) {
    const fs::path relative = fs::path(name).lexically_normal();
    if (name.empty() || relative.is_absolute() || relative.empty() || *relative.begin() == ".." ||
        !relative.has_filename())
        throw Refused(fmt::format("the name \"{}\" leads out of the folder", name), folder.string());
    return folder / relative;
}

/// The rights that a file has, or those of a new one.
unsigned modeOf(const fs::path& path) {
    struct stat status {};
    return ::stat(path.c_str(), &status) == 0 ? status.st_mode & 07777u : usualMode;
}

/// A file on its way to its place, or one that leaves it.
struct Move {
    fs::path part; ///< empty where the target leaves
    fs::path target;
    fs::path old; ///< what was there before; empty when nothing was
};

/// Removes a file; one that is not there any more is none of our business.
void removeFile(const fs::path& target) {
    std::error_code error;
    fs::remove(target, error);
    if (error) refuseWriting(target, error.value());
}

/// Removes the folder of a file that left, and those above it below `folder`, as far as they are empty.
void removeEmptied(const fs::path& folder, const std::string& name) {
    std::error_code error;
    for (fs::path above = fs::path(name).lexically_normal().parent_path(); !above.empty();
         above = above.parent_path())
        if (!fs::is_empty(folder / above, error) || error || !fs::remove(folder / above, error)) return;
}

/// The folders and files made so far, cleared away by the destructor, and the moves, undone by it, unless
/// keep() was called.
class Writes {
public:
    ~Writes() {
        std::error_code ignored;
        for (std::size_t i = kept_ ? 0 : moved_; i-- > 0;) {
            if (moves[i].old.empty())
                fs::remove(moves[i].target, ignored);
            else
                fs::rename(moves[i].old, moves[i].target, ignored);
        }
        for (const Move& move : moves) {
            if (!move.part.empty()) fs::remove(move.part, ignored);
            if (!move.old.empty()) fs::remove(move.old, ignored);
        }
        if (!kept_)
            for (auto made = folders_.rbegin(); made != folders_.rend(); ++made) fs::remove(*made, ignored);
    }
    void makeFolder(const fs::path& folder) {
        std::error_code error;
        if (folder.empty() || fs::is_directory(folder, error)) return;
        makeFolder(folder.parent_path());
        if (fs::create_directory(folder, error)) folders_.push_back(folder);
        if (error) refuseWriting(folder, error.value());
    }
    void add(const fs::path& target, std::string_view bytes) {
        std::error_code error;
        if (fs::is_directory(target, error)) refuseWriting(target, EISDIR);
        const fs::path beside = target.parent_path();
        writeWhole(moves.emplace_back(Move{passingPath(beside, partFile), target, {}}).part, target, bytes,
                   modeOf(target));
        if (!fs::exists(target, error)) return;
        const fs::path old = passingPath(beside, oldFile);
        keepAs(target, old);
        moves.back().old = old;
    }
    void leave(const fs::path& target) {
        std::error_code error;
        if (!fs::exists(fs::symlink_status(target, error))) return;
        if (!fs::is_regular_file(fs::symlink_status(target, error))) refuseWriting(target, EISDIR);
        const fs::path old = passingPath(target.parent_path(), oldFile);
        keepAs(target, old);
        moves.push_back({{}, target, old});
    }
    void moveAll() {
        for (; moved_ < moves.size(); ++moved_) {
            const Move& move = moves[moved_];
            if (move.part.empty())
                removeFile(move.target);
            else
                moveOver(move.part, move.target);
        }
        std::set<fs::path> folders;
        for (const Move& move : moves) folders.insert(move.target.parent_path());
        for (const fs::path& folder : folders) flushFolder(folder);
    }
    void keep() { kept_ = true; }

    std::vector<Move> moves;

private:
    std::size_t moved_ = 0;
    std::vector<fs::path> folders_;
    bool kept_ = false;
};

/// What takes whose place, as a file that a later run can go on from: two lines a move, the first of them
/// empty where a file leaves.
std::string listOf(const std::vector<Move>& moves, const fs::path& folder) {
    std::string list;
    for (const Move& move : moves)
        list += (move.part.empty() ? "" : move.part.lexically_relative(folder).string()) + "\n" +
                move.target.lexically_relative(folder).string() + "\n";
    return list;
}

void clearLeavings(const fs::path& folder) {
    std::error_code error;
    std::vector<fs::path> leavings;
    for (const auto& entry : fs::directory_iterator(folder, error))
        if (isLeftBehind(entry.path(), partFile) || isLeftBehind(entry.path(), oldFile))
            leavings.push_back(entry.path());
    for (const fs::path& path : leavings) fs::remove(path, error);
}

/// Moves what the list of a killed program says; names that lead elsewhere are not its own.
void goOnFrom(const fs::path& list, const fs::path& folder) {
    const std::string text = readText(list);
    std::vector<std::string> lines;
    for (std::size_t at = 0, end; (end = text.find('\n', at)) != std::string::npos; at = end + 1)
        lines.push_back(text.substr(at, end - at));
    std::error_code ignored;
    for (std::size_t i = 0; i + 1 < lines.size(); i += 2) {
        const fs::path target = insideFolder(folder, lines[i + 1]);
        if (lines[i].empty()) {
            if (fs::is_regular_file(fs::symlink_status(target, ignored))) removeFile(target);
            clearLeavings(target.parent_path());
            removeEmptied(folder, lines[i + 1]);
            continue;
        }
        const fs::path part = insideFolder(folder, lines[i]);
        if (isLeftBehind(part, partFile) && fs::is_regular_file(fs::symlink_status(part, ignored)))
            moveOver(part, target);
    }
}

void moveAllOrNone(const fs::path& folder, const std::vector<OutFile>& files,
                   const std::vector<fs::path>& targets, const std::vector<fs::path>& left) {
    Writes writes;
    for (const fs::path& target : targets) writes.makeFolder(target.parent_path());
    for (std::size_t i = 0; i < files.size(); ++i) writes.add(targets[i], files[i].bytes);
    for (const fs::path& target : left) writes.leave(target);
    if (writes.moves.size() < 2) { // one move needs no list
        writes.moveAll();
        return writes.keep();
    }
    const fs::path list = passingPath(folder, listFile);
    writeWhole(list, folder, listOf(writes.moves, folder), usualMode);
    std::error_code ignored;
    try {
        flushFolder(folder);
        writes.moveAll();
    } catch (...) {
        fs::remove(list, ignored);
        throw;
    }
    fs::remove(list, ignored);
    writes.keep();
}

} // namespace

void finishWriting(const fs::path& folder) {
    std::error_code error;
    std::vector<fs::path> lists;
    for (const auto& entry : fs::directory_iterator(folder, error))
        if (isLeftBehind(entry.path(), listFile)) lists.push_back(entry.path());
    for (const fs::path& list : lists) {
        try {
            goOnFrom(list, folder);
        } catch (const Error&) {
            // Somebody made it unusable meanwhile; what is there stays as it is.
        }
        fs::remove(list, error);
    }
    clearLeavings(folder);
}

void finishWritingBelow(const fs::path& folder) {
    finishWriting(folder);
    std::error_code error;
    std::vector<fs::path> leavings;
    for (auto at = fs::recursive_directory_iterator(folder, error);
         !error && at != fs::recursive_directory_iterator(); at.increment(error))
        if (isLeftBehind(at->path(), partFile) || isLeftBehind(at->path(), oldFile))
            leavings.push_back(at->path());
    for (const fs::path& path : leavings) {
        fs::remove(path, error);
        removeEmptied(folder, path.lexically_relative(folder).string());
    }
}

void writeAllOrNone(const fs::path& folder, const std::vector<OutFile>& files,
                    const std::vector<std::string>& leaving) {
    std::set<std::string> names;
    std::set<fs::path> folders;
    std::vector<fs::path> targets, left;
    const auto addTo = [&](std::vector<fs::path>& list, const std::string& name) {
        list.push_back(insideFolder(folder, name));
        folders.insert(list.back().parent_path());
        if (!names.insert(list.back().string()).second)
            throw Refused(fmt::format("two files would be called \"{}\"", name), folder.string(),
                          "Rename one.");
    };
    for (const OutFile& file : files) addTo(targets, file.name);
    for (const std::string& name : leaving) addTo(left, name);
    finishWriting(folder);
    for (const fs::path& other : folders) clearLeavings(other);
    moveAllOrNone(folder, files, targets, left);
    for (const std::string& name : leaving) removeEmptied(folder, name);
}

void writeFile(const fs::path& path, std::string_view bytes, const fs::path& backup) {
    std::error_code error;
    const fs::path target = fs::is_symlink(path, error) ? fs::weakly_canonical(path, error) : path;
    const fs::path folder = target.has_parent_path() ? target.parent_path() : fs::path(".");
    if (!backup.empty() && fs::is_regular_file(target, error) && readText(target) != bytes) {
        const fs::path kept = passingPath(folder, partFile);
        keepAs(target, kept);
        moveOver(kept, backup);
        fs::remove(kept, error); // it stays where both names were the same file's
    }
    writeAllOrNone(folder, {{target.filename().string(), std::string(bytes)}});
}

std::string readText(const fs::path& path, std::size_t mostBytes) {
    const FileBytes file(path);
    if (file.size() > mostBytes)
        throw Error(fmt::format("is {} bytes, more than the {} allowed here", file.size(), mostBytes),
                    path.string());
    return std::string(file.text());
}

std::string fileNameFrom(std::string_view name) {
    std::string result;
    for (const unsigned char c : name) {
        if (std::isalnum(c) && c < 128)
            result += static_cast<char>(std::tolower(c));
        else if (c == '_')
            result += '_';
        else if (!result.empty() && result.back() != '-')
            result += '-';
        if (result.size() >= 80) break;
    }
    while (!result.empty() && result.back() == '-') result.pop_back();
    return result.empty() ? "piece" : result;
}

} // namespace zl
