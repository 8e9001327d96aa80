// The files of an archive. It is listed once; files are then read on from where the last one was, and from
// the start again only for one that lies before it.
#include "core/files/containers.h"

#include "core/files/archive_reader.h"
#include "core/files/listing.h"
#include "core/files/locked_zip.h"

#include "core/base/hash.h"
#include "core/base/stamp.h"

#include <fmt/format.h>

#include <set>

namespace zl::files {

namespace {

/// Places in its listing are how many entries lie before each.
class ArchiveFiles final : public ListedFiles {
public:
    ArchiveFiles(const std::filesystem::path& file, const Terms& terms)
        : ListedFiles(file.string(), terms.limits, stampOf(file)), terms_(terms), file_(file) {
        walk();
    }
    ArchiveFiles(FileBytes bytes, std::string where, const Terms& terms)
        : ListedFiles(std::move(where), terms.limits, fmt::format("{:016x}", hashText(bytes.text()))),
          terms_(terms), bytes_(std::move(bytes)) {
        walk();
    }

    FileBytes open(std::string_view path, const Progress& progress) const override {
        const std::int64_t place = listing_.mustHave(path);
        if (locked_.contains(place)) return openLocked(path, progress);
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
    FileBytes openLocked(std::string_view path, const Progress& progress) const {
        checkUnchanged();
        if (!zip_)
            zip_ = bytes_ ? std::make_unique<LockedZip>(*bytes_, where_, terms_)
                          : std::make_unique<LockedZip>(file_, terms_);
        return zip_->open(path, progress);
    }

    void start() const {
        reader_.reset();
        checkUnchanged();
        reader_ = bytes_ ? std::make_unique<ArchiveReader>(*bytes_, where_, limits_)
                         : std::make_unique<ArchiveReader>(file_, limits_);
        at_ = 0;
    }
    void checkUnchanged() const {
        if (!bytes_) demandStamp(stampOf(file_));
    }

    void walk() {
        start();
        while (const auto head = reader_->next()) {
            limits_.checkEntries(std::size_t(at_) + 1, where_);
            if (head->file) listing_.add(head->name, at_, head->bytes, head->locked);
            if (head->file && head->locked) locked_.insert(at_);
            ++at_;
        }
        checkUnchanged();
    }

    Terms terms_;
    std::filesystem::path file_;
    std::set<std::int64_t> locked_; ///< their places
    mutable std::unique_ptr<LockedZip> zip_;
    std::optional<FileBytes> bytes_; ///< of one that is not on the disk
    mutable std::unique_ptr<ArchiveReader> reader_;
    mutable std::int64_t at_ = 0; ///< entries that the reader has gone through
};

} // namespace

std::unique_ptr<Files> archiveFiles(const std::filesystem::path& file, const Terms& terms) {
    return std::make_unique<ArchiveFiles>(file, terms);
}

std::unique_ptr<Files> archiveFiles(FileBytes bytes, std::string where, const Terms& terms) {
    return std::make_unique<ArchiveFiles>(std::move(bytes), std::move(where), terms);
}

} // namespace zl::files
