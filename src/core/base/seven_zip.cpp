#include "core/base/archive.h"

#include "core/base/error.h"
#include "core/base/letters_in_utf8.h"

#include <archive.h>
#include <archive_entry.h>

#include <memory>

namespace zl {

namespace {

struct Closing {
    void operator()(struct archive* held) const { archive_write_free(held); }
    void operator()(archive_entry* held) const { archive_entry_free(held); }
};

la_ssize_t appended(struct archive*, void* to, const void* bytes, std::size_t count) {
    static_cast<std::string*>(to)->append(static_cast<const char*>(bytes), count);
    return la_ssize_t(count);
}

} // namespace

std::string sevenZipped(const std::vector<OutFile>& files) {
    const LettersInUtf8 letters;
    std::string out;
    const std::unique_ptr<struct archive, Closing> held(archive_write_new());
    const auto demand = [&](int result) {
        if (result != ARCHIVE_OK)
            throw Refused("the archive could not be put together", archive_error_string(held.get()));
    };
    demand(archive_write_set_format_7zip(held.get()));
    demand(archive_write_set_bytes_in_last_block(held.get(), 1)); // no zeros behind it
    demand(archive_write_open2(held.get(), &out, nullptr, appended, nullptr, nullptr));
    for (const OutFile& file : files) {
        const std::unique_ptr<archive_entry, Closing> entry(archive_entry_new());
        archive_entry_set_pathname(entry.get(), file.name.c_str());
        archive_entry_set_size(entry.get(), la_int64_t(file.bytes.size()));
        archive_entry_set_filetype(entry.get(), AE_IFREG);
        archive_entry_set_perm(entry.get(), 0644);
        archive_entry_set_mtime(entry.get(), 946684800, 0); // 2000-01-01
        demand(archive_write_header(held.get(), entry.get()));
        if (archive_write_data(held.get(), file.bytes.data(), file.bytes.size()) !=
            la_ssize_t(file.bytes.size()))
            throw Refused("the archive could not be put together", file.name);
    }
    demand(archive_write_close(held.get()));
    return out;
}

} // namespace zl
