// The files of an archive. It is listed once; files are then read on from where the last one was, and from
// the start again only for one that lies before it.
#include "core/files/containers.h"

#include "core/files/archive_reader.h"
#include "core/files/listing.h"

#include "core/base/hash.h"
#include "core/base/stamp.h"

#include <fmt/format.h>

namespace zl::files {

namespace {

/// Places in its listing are how many entries lie before each.
class ArchiveFiles final : public ListedFiles {
public:
    ArchiveFiles(const std::filesystem::path& file, const Limits& limits)
        : ListedFiles(file.string(), limits, stampOf(file)), file_(file) {
        walk();
    }
    ArchiveFiles(FileBytes bytes, std::string where, const Limits& limits)
        : ListedFiles(std::move(where), limits, fmt::format("{:016x}", hashText(bytes.text()))),
          bytes_(std::move(bytes)) {
        walk();
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
        if (!bytes_) demandStamp(stampOf(file_));
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
