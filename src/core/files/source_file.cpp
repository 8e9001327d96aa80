#include "core/files/source_file.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/base/utf8.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::files {

namespace {

/// The longest start of `path` that is a file of its own in `files`: the whole, or an archive on the way.
std::string partIn(const Files& files, std::string_view path) {
    std::string longest;
    for (const Entry& entry : files.list())
        if (entry.path.size() > longest.size() && path.starts_with(entry.path) &&
            (path.size() == entry.path.size() || path[entry.path.size()] == '/'))
            longest = entry.path;
    return longest;
}

} // namespace

SourceFile::SourceFile(const Address& address, const Terms& terms, const Progress& progress)
    : address_(address), where_(address.path().string()), progress_(progress.silent()) {
    rest(address.file);
    if (address.inside.empty()) {
        files_ = folderFiles(address.file.parent_path(), terms);
        path_ = address.file.filename().string();
        return;
    }
    files_ = filesIn(address.file, terms);
    std::string around = address.file.string();
    path_ = normalPath(address.inside).value_or("");
    for (int depth = 1;; ++depth) {
        const std::string part = partIn(*files_, path_);
        if (part.empty() || part.size() == path_.size()) break;
        if (depth == terms.limits.depth)
            throw Error(fmt::format("lies deeper than {} archives within one another", terms.limits.depth),
                        where_, "Unpack the outermost first.");
        around += "/" + part;
        files_ = filesIn(files_->open(part, progress_), around, terms);
        path_.erase(0, part.size() + 1);
    }
    if (const std::size_t end = path_.rfind('/'); end != std::string::npos) folder_ = path_.substr(0, end);
}

FileBytes SourceFile::bytes() const {
    FileBytes out = files_->open(path_, progress_);
    if (out.size() == 0) throw Error("is empty", where_, "Export or copy the file again.");
    return out;
}

std::string SourceFile::extension() const {
    const std::string dotted = lowerCase(address_.path().extension().string());
    return dotted.empty() ? dotted : dotted.substr(1);
}

std::optional<SourceFile::Beside> SourceFile::beside(std::string_view name) {
    const bool onDisk = address_.inside.empty();
    std::string wanted(name);
    std::ranges::replace(wanted, '\\', '/');
    if (const auto path = files_->find(folder_, name)) {
        if (onDisk) rest(address_.file.parent_path() / *path);
        return Beside{*path, fs::path(*path).filename().string()};
    }
    if (onDisk) { // wherever it may come to
        rest(address_.file.parent_path() / fs::path(wanted).filename());
        rest(address_.file.parent_path() / wanted);
    }
    if (said_.insert("missing " + wanted).second) missing_.push_back(asUtf8(wanted));
    return std::nullopt;
}

FileBytes SourceFile::bytes(const Beside& file) const {
    return files_->open(file.path, progress_);
}

void SourceFile::rest(const fs::path& file) {
    if (said_.insert("file " + file.string()).second) restsOn_.push_back(file);
}

} // namespace zl::files
