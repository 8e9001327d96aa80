#include "core/base/file_set.h"

#include "core/base/error.h"
#include "core/base/mapped_file.h"

#include <fmt/format.h>

#include <cctype>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <set>
#include <unistd.h>

namespace fs = std::filesystem;

namespace zl {

namespace {

[[noreturn]] void refuse(const fs::path& path, int code) {
    throw Refused(fmt::format("cannot be written ({})", std::strerror(code)), path.string(),
                  "Choose another folder, or make room or rights there; nothing was changed.");
}

/// Writes `path`; errors are told of `target`, which it stands in for.
void writeAndFlush(const fs::path& path, const fs::path& target, std::string_view bytes) {
    const int descriptor = ::open(path.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (descriptor < 0) refuse(target, errno);
    while (!bytes.empty()) {
        const ssize_t written =
            ::write(descriptor, bytes.data(), std::min<std::size_t>(bytes.size(), 1u << 26));
        if (written < 0) {
            if (errno == EINTR) continue;
            const int code = errno;
            ::close(descriptor);
            refuse(target, code);
        }
        bytes.remove_prefix(static_cast<std::size_t>(written));
    }
    const bool flushed = ::fsync(descriptor) == 0;
    const int code = errno;
    if (::close(descriptor) != 0 || !flushed) refuse(target, code);
}

fs::path insideFolder(const fs::path& folder, const std::string& name) {
    const fs::path relative = fs::path(name).lexically_normal();
    if (name.empty() || relative.is_absolute() || *relative.begin() == "..")
        throw Refused(fmt::format("the name \"{}\" leads out of the folder", name), folder.string());
    return folder / relative;
}

/// The folders and moves made so far, undone by the destructor unless `keep` was called.
class Renames {
public:
    ~Renames() {
        std::error_code ignored;
        for (auto step = done_.rbegin(); step != done_.rend(); ++step)
            if (step->backup.empty())
                fs::remove(step->target, ignored);
            else
                fs::rename(step->backup, step->target, ignored);
        for (const fs::path& path : temporary_) fs::remove(path, ignored);
        for (auto made = folders_.rbegin(); made != folders_.rend(); ++made) fs::remove(*made, ignored);
    }
    void makeFolder(const fs::path& folder) {
        std::error_code error;
        if (folder.empty() || fs::is_directory(folder, error)) return;
        makeFolder(folder.parent_path());
        if (fs::create_directory(folder, error)) folders_.push_back(folder);
        if (error) refuse(folder, error.value());
    }
    void addTemporary(const fs::path& path) { temporary_.push_back(path); }
    void replace(const fs::path& from, const fs::path& to) {
        fs::path backup;
        std::error_code error;
        if (fs::is_directory(to, error)) refuse(to, EISDIR); // a folder in the way is somebody's
        if (fs::exists(to, error)) {
            backup = to;
            backup += fmt::format(".before{}", ::getpid());
            fs::rename(to, backup, error);
            if (error) refuse(to, error.value());
            done_.push_back({to, backup});
        }
        fs::rename(from, to, error);
        if (error) refuse(to, error.value());
        if (backup.empty()) done_.push_back({to, {}});
    }
    void keep() {
        std::error_code ignored;
        for (const Step& step : done_)
            if (!step.backup.empty()) fs::remove(step.backup, ignored);
        done_.clear();
        folders_.clear();
    }

private:
    struct Step {
        fs::path target, backup;
    };
    std::vector<Step> done_;
    std::vector<fs::path> temporary_, folders_;
};

} // namespace

void writeAllOrNone(const fs::path& folder, const std::vector<OutFile>& files) {
    std::set<std::string> names;
    std::vector<fs::path> targets;
    for (const OutFile& file : files) {
        targets.push_back(insideFolder(folder, file.name));
        if (!names.insert(targets.back().string()).second)
            throw Refused(fmt::format("two files would be called \"{}\"", file.name), folder.string(),
                          "Rename one.");
    }
    Renames renames;
    for (const fs::path& target : targets) renames.makeFolder(target.parent_path());
    const std::string suffix = fmt::format(".part{}", ::getpid());
    std::vector<fs::path> parts;
    for (std::size_t i = 0; i < files.size(); ++i) {
        fs::path part = targets[i];
        part += suffix;
        renames.addTemporary(part);
        writeAndFlush(part, targets[i], files[i].bytes);
        parts.push_back(part);
    }
    for (std::size_t i = 0; i < files.size(); ++i) renames.replace(parts[i], targets[i]);
    renames.keep();
}

void writeFile(const fs::path& path, std::string_view bytes) {
    const fs::path folder = path.has_parent_path() ? path.parent_path() : fs::path(".");
    writeAllOrNone(folder, {{path.filename().string(), std::string(bytes)}});
}

std::string readText(const fs::path& path, std::size_t mostBytes) {
    const MappedFile file(path);
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
