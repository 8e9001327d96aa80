#include "core/files/archive_reader.h"

#include "core/base/error.h"
#include "core/base/letters_in_utf8.h"
#include "core/base/utf8.h"

#include <archive.h>
#include <archive_entry.h>
#include <fmt/format.h>

#include <algorithm>
#include <cstring>
#include <vector>

namespace zl::files {

namespace {

constexpr std::size_t blockBytes = 1 << 18;

archive* newArchive() {
    archive* made = archive_read_new();
    if (!made) throw std::bad_alloc();
    archive_read_support_format_zip(made);
    archive_read_support_format_7zip(made);
    archive_read_support_format_tar(made);
    archive_read_support_filter_gzip(made);
    archive_read_support_filter_bzip2(made);
    archive_read_support_filter_xz(made);
    archive_read_support_filter_zstd(made);
    return made;
}

} // namespace

ArchiveReader::ArchiveReader(const std::filesystem::path& file, const Limits& limits)
    : where_(file.string()), limits_(limits), archive_(newArchive()) {
    std::error_code unknown;
    packed_ = std::filesystem::file_size(file, unknown);
    open(archive_read_open_filename(archive_, file.c_str(), blockBytes));
}

ArchiveReader::ArchiveReader(const FileBytes& bytes, std::string where, const Limits& limits)
    : where_(std::move(where)), limits_(limits), packed_(bytes.size()), archive_(newArchive()) {
    open(archive_read_open_memory(archive_, bytes.text().data(), bytes.size()));
}

ArchiveReader::~ArchiveReader() {
    archive_read_free(archive_);
}

void ArchiveReader::open(int result) {
    if (result >= ARCHIVE_WARN) return;
    const char* why = archive_error_string(archive_);
    const std::string words = why ? why : "unknown reason";
    archive_read_free(std::exchange(archive_, nullptr));
    throw Error(fmt::format("is no archive that can be opened ({})", words), where_,
                "Zip, 7z and tar archives can be opened; download or copy it again.");
}

void ArchiveReader::fail(const std::string& what, const std::string& mend) const {
    throw Error(what, where_, mend);
}

std::optional<ArchiveReader::Head> ArchiveReader::next() {
    const LettersInUtf8 letters;
    const int result = archive_read_next_header(archive_, &entry_);
    if (result == ARCHIVE_EOF) return std::nullopt;
    if (result < ARCHIVE_WARN) {
        const char* why = archive_error_string(archive_);
        fail(fmt::format("is broken ({})", why ? why : "unknown reason"), "Download or copy it again.");
    }
    Head head;
    const bool zip = (archive_format(archive_) & ARCHIVE_FORMAT_BASE_MASK) == ARCHIVE_FORMAT_ZIP;
    const auto toUtf8 = zip ? &asUtf8FromZip : &asUtf8;
    if (const char* name = archive_entry_pathname(entry_))
        head.name = toUtf8(name);
    else if (const char* inUtf8 = archive_entry_pathname_utf8(entry_))
        head.name = toUtf8(inUtf8);
    head.bytes = archive_entry_size_is_set(entry_)
                     ? std::uint64_t(std::max<la_int64_t>(0, archive_entry_size(entry_)))
                     : 0;
    // All but zips have to be unpacked to get past an entry, whose length there is true to the byte.
    promised_ += head.bytes;
    if (!zip) limits_.checkRatio(promised_, packed_, head.name, where_);
    head.file = archive_entry_filetype(entry_) == AE_IFREG && !archive_entry_hardlink(entry_);
    head.locked = archive_entry_is_encrypted(entry_) != 0;
    return head;
}

FileBytes ArchiveReader::bytes(const Head& head, const Progress& progress) {
    if (head.locked)
        fail(fmt::format("holds \"{}\" under a key", head.name), "Unpack it with its key first.");
    const LettersInUtf8 letters;
    const la_int64_t packedBefore = archive_filter_bytes(archive_, -1);
    limits_.checkBytes(head.bytes, head.name, where_);
    // Only what was really unpacked is believed, not what the head promises.
    std::vector<char> out;
    for (;;) {
        progress.checkCancel();
        const void* block = nullptr;
        std::size_t size = 0;
        la_int64_t offset = 0;
        const int result = archive_read_data_block(archive_, &block, &size, &offset);
        if (result == ARCHIVE_EOF) break;
        if (result != ARCHIVE_OK) { // a wrong checksum is only a warning there
            const char* why = archive_error_string(archive_);
            fail(fmt::format("holds \"{}\", which is broken ({})", head.name, why ? why : "unknown reason"),
                 "Download or copy the archive again.");
        }
        const std::uint64_t end = offset < 0 ? ~std::uint64_t(0) : std::uint64_t(offset) + size;
        limits_.checkBytes(end, head.name, where_);
        limits_.checkRatio(end, std::uint64_t(archive_filter_bytes(archive_, -1) - packedBefore), head.name,
                           where_);
        if (end > out.size()) out.resize(end); // a gap between blocks is zeros
        if (size > 0) std::memcpy(out.data() + offset, block, size);
    }
    auto bytes = std::unique_ptr<char[]>(new char[out.size()]);
    std::ranges::copy(out, bytes.get());
    return {std::move(bytes), out.size()};
}

} // namespace zl::files
