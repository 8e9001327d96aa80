// The files of a folder on the disk. Single ones are looked for without listing the folder, which may be
// large.
#include "core/files/files.h"

#include "core/base/error.h"
#include "core/base/stamp.h"
#include "core/base/utf8.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::files {

namespace {

class FolderFiles final : public Files {
public:
    FolderFiles(fs::path folder, const Limits& limits) : folder_(std::move(folder)), limits_(limits) {}

    const std::vector<Entry>& list() const override {
        if (!listed_) walk();
        listed_ = true;
        return entries_;
    }
    const std::vector<Passed>& passedOver() const override { return passed_; }

    FileBytes open(std::string_view path, const Progress&) const override {
        return FileBytes(folder_ / path);
    }
    std::string stamp(std::string_view path) const override { return stampOf(folder_ / path); }

    std::optional<std::string> find(std::string_view folder, std::string_view name) const override {
        std::string wanted(name);
        std::ranges::replace(wanted, '\\', '/');
        const fs::path within(folder), bare = fs::path(wanted).filename(), inUtf8 = asUtf8(bare.string());
        std::error_code error;
        // Old files name others in Latin-1 that lie on the disk in UTF-8.
        for (const fs::path& candidate : {within / wanted, within / bare, within / inUtf8})
            if (fs::is_regular_file(folder_ / candidate, error)) return candidate.string();
        const fs::path other = withoutRegardToCase(folder_ / within, inUtf8);
        if (other.empty()) return std::nullopt;
        return (within / other.filename()).string();
    }

private:
    void walk() const {
        std::error_code error;
        fs::recursive_directory_iterator at(folder_.empty() ? fs::path(".") : folder_,
                                            fs::directory_options::skip_permission_denied, error);
        if (error)
            throw Error(fmt::format("cannot be looked into ({})", error.message()), folder_.string(),
                        "Check the path and your rights to read it.");
        for (; at != fs::recursive_directory_iterator(); at.increment(error)) {
            if (error) break;
            std::error_code unknown;
            if (at->is_symlink(unknown) || !at->is_regular_file(unknown)) continue;
            const std::string path = at->path().lexically_relative(folder_).generic_string();
            if (entries_.size() == limits_.entries)
                throw Error(fmt::format("holds more than {} files", limits_.entries), folder_.string(),
                            "Choose a folder further in.");
            if (isUtf8(path))
                entries_.push_back({path, at->file_size(unknown), false});
            else
                passed_.push_back({asUtf8(path), "its name is not in UTF-8"});
        }
        std::ranges::sort(entries_, {}, &Entry::path); // a folder has no order of its own
    }

    fs::path folder_;
    Limits limits_;
    mutable bool listed_ = false;
    mutable std::vector<Entry> entries_;
    mutable std::vector<Passed> passed_;
};

} // namespace

std::unique_ptr<Files> folderFiles(const fs::path& folder, const Terms& terms) {
    return std::make_unique<FolderFiles>(folder, terms.limits);
}

} // namespace zl::files
