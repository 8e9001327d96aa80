// The files of an archive. It is listed once; files are then read on from where the last one was, and from
// the start again only for one that lies before it.
#include "core/files/containers.h"

#include "core/files/archive_reader.h"
#include "core/files/listing.h"

#include "core/base/error.h"
#include "core/base/hash.h"
#include "core/base/stamp.h"

#include <fmt/format.h>

namespace zl::files {

namespace {

class ArchiveFiles final : public Files {
public:
    ArchiveFiles(std::filesystem::path file, const Limits& limits)
        : file_(std::move(file)), where_(file_.string()), limits_(limits), listing_(where_, limits),
          stamp_(stampOf(file_)) {
        walk();
    }
    ArchiveFiles(FileBytes bytes, std::string where, const Limits& limits)
        : bytes_(std::move(bytes)), where_(std::move(where)), limits_(limits), listing_(where_, limits),
          stamp_(fmt::format("{:016x}", hashText(bytes_->text()))) {
        walk();
    }

    const std::vector<Entry>& list() const override { return listing_.entries(); }
    const std::vector<Passed>& passedOver() const override { return listing_.passed(); }
    std::string stamp(std::string_view path) const override {
        return listing_.placeOf(path) ? stamp_ : "missing";
    }

    FileBytes open(std::string_view path, const Progress& progress) const override {
        const std::int64_t place = listing_.mustHave(path);
        try {
            if (!reader_ || at_ > place) start();
            std::optional<ArchiveReader::Head> head;
            while (at_ <= place && (head = reader_->next())) ++at_, progress.checkCancel();
            if (!head) throwChanged();
            FileBytes out = reader_->bytes(*head, progress);
            checkUnchanged();
            return out;
        } catch (...) {
            reader_.reset();
            throw;
        }
    }

private:
    void start() const {
        reader_.reset();
        checkUnchanged();
        reader_ = bytes_ ? std::make_unique<ArchiveReader>(*bytes_, where_, limits_)
                         : std::make_unique<ArchiveReader>(file_, limits_);
        at_ = 0;
    }
    void checkUnchanged() const {
        if (!bytes_ && stampOf(file_) != stamp_) throwChanged();
    }
    [[noreturn]] void throwChanged() const {
        throw Error("was changed by another program", where_,
                    "Wait until that program is done, then read it again.");
    }

    void walk() {
        start();
        while (const auto head = reader_->next()) {
            limits_.checkEntries(std::size_t(at_) + 1, where_);
            if (head->file) listing_.add(head->name, at_, head->bytes, head->locked);
            ++at_;
        }
        checkUnchanged();
    }

    std::filesystem::path file_;
    std::optional<FileBytes> bytes_; ///< of one that is not on the disk
    std::string where_;
    Limits limits_;
    Listing listing_; ///< by how many entries lie before each
    std::string stamp_;
    mutable std::unique_ptr<ArchiveReader> reader_;
    mutable std::int64_t at_ = 0; ///< entries that the reader has gone through
};

} // namespace

std::unique_ptr<Files> archiveFiles(const std::filesystem::path& file, const Limits& limits) {
    return std::make_unique<ArchiveFiles>(file, limits);
}

std::unique_ptr<Files> archiveFiles(FileBytes bytes, std::string where, const Limits& limits) {
    return std::make_unique<ArchiveFiles>(std::move(bytes), std::move(where), limits);
}

} // namespace zl::files
