#include "core/files/locked_zip.h"

#include "core/base/utf8.h"
#include "core/files/files.h"

#include <fmt/format.h>
#include <zip.h>

#include <cstring>

namespace zl::files {

namespace {

struct CloseFile {
    void operator()(zip_file_t* file) const { zip_fclose(file); }
};

constexpr std::size_t lockedBlockBytes = 1 << 18;

} // namespace

LockedZip::LockedZip(const std::filesystem::path& file, const Terms& terms)
    : where_(file.string()), terms_(terms) {
    openFrom([&](zip_error_t& error) { return zip_source_file_create(file.c_str(), 0, -1, &error); });
}

LockedZip::LockedZip(const FileBytes& bytes, std::string where, const Terms& terms)
    : where_(std::move(where)), terms_(terms) {
    openFrom([&](zip_error_t& error) {
        return zip_source_buffer_create(bytes.text().data(), bytes.size(), 0, &error);
    });
}

void LockedZip::openFrom(const std::function<zip_source*(zip_error&)>& made) {
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* source = made(error);
    if (source) zip_ = zip_open_from_source(source, ZIP_RDONLY, &error);
    if (!zip_) {
        if (source) zip_source_free(source);
        const std::string why = zip_error_strerror(&error);
        zip_error_fini(&error);
        throw Error(fmt::format("is broken ({})", why), where_, "Download or copy it again.");
    }
    list();
}

LockedZip::~LockedZip() {
    zip_discard(zip_);
}

void LockedZip::list() {
    const auto count = std::uint64_t(std::max<zip_int64_t>(0, zip_get_num_entries(zip_, 0)));
    for (std::uint64_t i = 0; i < count; ++i)
        if (const char* name = zip_get_name(zip_, i, ZIP_FL_ENC_RAW))
            if (auto path = normalPath(asUtf8FromZip(name))) places_.try_emplace(std::move(*path), i);
}

void LockedZip::fail(std::string_view path, const std::string& why) const {
    throw Error(fmt::format("holds \"{}\", which is broken ({})", path, why), where_,
                "Download or copy the archive again.");
}

FileBytes LockedZip::open(std::string_view path, const Progress& progress) {
    if (!terms_.key) throw KeyNeeded(where_, fmt::format("holds \"{}\" under a key", path), false);
    const auto place = places_.find(path);
    if (place == places_.end()) fail(path, "it is not in the list of files");
    const std::unique_ptr<zip_file_t, CloseFile> file(
        zip_fopen_index_encrypted(zip_, place->second, 0, terms_.key->text().data()));
    if (!file) {
        if (zip_error_code_zip(zip_get_error(zip_)) == ZIP_ER_WRONGPASSWD)
            throw KeyNeeded(where_, fmt::format("is not opened by that key (tried on \"{}\")", path), true);
        fail(path, zip_strerror(zip_));
    }
    zip_stat_t stat;
    zip_stat_init(&stat);
    const bool known =
        zip_stat_index(zip_, place->second, 0, &stat) == 0 && (stat.valid & ZIP_STAT_COMP_SIZE);
    std::string out;
    for (std::size_t end = 0;;) {
        progress.checkCancel();
        terms_.limits.checkBytes(end + lockedBlockBytes, path, where_);
        out.resize(end + lockedBlockBytes);
        const zip_int64_t got = zip_fread(file.get(), out.data() + end, lockedBlockBytes);
        if (got < 0) fail(path, zip_file_strerror(file.get()));
        end += std::size_t(got);
        if (known) terms_.limits.checkRatio(end, stat.comp_size, path, where_);
        out.resize(end);
        if (got == 0) break;
    }
    noteOpened(terms_);
    auto bytes = std::unique_ptr<char[]>(new char[out.size()]);
    std::memcpy(bytes.get(), out.data(), out.size());
    return {std::move(bytes), out.size()};
}

} // namespace zl::files
