#include "standins/world/packed_files.h"

#include "core/base/letters.h"
#include "core/base/letters_in_utf8.h"

#include <archive.h>
#include <archive_entry.h>

#include <algorithm>
#include <array>
#include <memory>
#include <optional>

namespace zl::standins::world {

namespace {

constexpr std::size_t mostEntries = 20000;
constexpr std::array endings{".zip",    ".7z",  ".tar",     ".tar.gz", ".tgz",
                             ".tar.xz", ".txz", ".tar.bz2", ".tar.zst"};

using Reader = std::unique_ptr<archive, int (*)(archive*)>;

Reader readerOf(const std::string& bytes) {
    Reader reader(archive_read_new(), archive_read_free);
    if (!reader) return reader;
    archive_read_support_format_7zip(reader.get());
    archive_read_support_format_tar(reader.get());
    archive_read_support_filter_gzip(reader.get());
    archive_read_support_filter_bzip2(reader.get());
    archive_read_support_filter_xz(reader.get());
    archive_read_support_filter_zstd(reader.get());
    if (archive_read_open_memory(reader.get(), bytes.data(), bytes.size()) != ARCHIVE_OK) reader.reset();
    return reader;
}

/// What the entry unpacks to, block by block: its head may promise anything. Nothing when it is broken or
/// more than `most`.
std::optional<std::string> unpacked(archive* reader, std::size_t most) {
    std::string out;
    for (;;) {
        const void* block = nullptr;
        std::size_t size = 0;
        la_int64_t offset = 0;
        const int result = archive_read_data_block(reader, &block, &size, &offset);
        if (result == ARCHIVE_EOF) return out;
        if (result != ARCHIVE_OK || offset < 0) return std::nullopt;
        if (size > most || std::size_t(offset) > most - size) return std::nullopt;
        out.resize(std::max(out.size(), std::size_t(offset)), '\0'); // a gap between blocks is zeros
        out.replace(std::size_t(offset), size, static_cast<const char*>(block), size);
    }
}

} // namespace

bool leadsOut(const std::string& name) {
    return name.empty() || name[0] == '/' || name.find('\\') != std::string::npos ||
           name.find(':') != std::string::npos || ("/" + name + "/").find("/../") != std::string::npos;
}

bool isPacked(const std::string& path) {
    const std::string small = lowerCase(path);
    return std::ranges::any_of(endings, [&](const char* ending) { return small.ends_with(ending); });
}

PackedFiles readPacked(const std::string& bytes, std::size_t mostBytes) {
    if (bytes.starts_with("PK")) return readZip(bytes, mostBytes);
    PackedFiles out;
    const auto broken = [&](std::string why) {
        out.entries.clear();
        out.problem = std::move(why);
        return out;
    };
    const LettersInUtf8 letters;
    const Reader reader = readerOf(bytes);
    if (!reader) return broken("it is no archive");
    std::size_t left = mostBytes;
    for (archive_entry* entry = nullptr;;) {
        const int result = archive_read_next_header(reader.get(), &entry);
        if (result == ARCHIVE_EOF) return out;
        if (result < ARCHIVE_WARN) return broken("it is no archive, or broken");
        if (archive_entry_filetype(entry) != AE_IFREG || archive_entry_hardlink(entry)) continue;
        const char* given = archive_entry_pathname_utf8(entry);
        std::string name = given ? given : "";
        if (name.starts_with("./")) name.erase(0, 2); // as tars begin
        if (leadsOut(name)) return broken("\"" + name + "\" leads out of it");
        if (out.entries.size() == mostEntries) return broken("it has more entries than any game's");
        auto content = unpacked(reader.get(), left);
        if (!content) return broken("\"" + name + "\" cannot be unpacked, or is larger than is taken");
        left -= content->size();
        if (!out.entries.emplace(name, std::move(*content)).second)
            return broken("\"" + name + "\" stands in it twice");
    }
}

} // namespace zl::standins::world
