#pragma once
#include "core/base/file_set.h"

#include <archive.h>
#include <archive_entry.h>
#include <sqlite3.h>

#include <filesystem>
#include <locale.h>
#include <stdexcept>
#include <string>
#include <vector>

/// Archives and packages of every kind, written by the libraries themselves.
namespace containers {

/// How an archive is made: by the names of libarchive.
struct Kind {
    std::string extension, format, filter, options;
};

inline const std::vector<Kind>& archives() {
    static const std::vector<Kind> kinds{
        {"zip", "zip", "", ""},          {"stored.zip", "zip", "", "zip:compression=store"},
        {"7z", "7zip", "", ""},          {"tar", "pax", "", ""},
        {"tar.gz", "ustar", "gzip", ""}, {"tar.bz2", "gnutar", "bzip2", ""},
        {"tar.xz", "pax", "xz", ""},     {"tar.zst", "pax", "zstd", ""}};
    return kinds;
}

/// Writes `files` in their order; names are taken as they are. With a key, a zip is encrypted (AES).
inline void writeArchive(const std::filesystem::path& path, const Kind& kind,
                         const std::vector<zl::OutFile>& files, const std::string& key = {}) {
    // Formats that keep names as letters take them from those of the locale.
    static const locale_t utf8 = newlocale(LC_CTYPE_MASK, "C.UTF-8", locale_t{});
    struct Letters {
        locale_t before = uselocale(utf8);
        ~Letters() { uselocale(before); }
    } letters;
    const auto must = [](archive* a, int result) {
        if (result < ARCHIVE_WARN) throw std::runtime_error(archive_error_string(a));
    };
    archive* out = archive_write_new();
    must(out, archive_write_set_format_by_name(out, kind.format.c_str()));
    if (!kind.filter.empty()) must(out, archive_write_add_filter_by_name(out, kind.filter.c_str()));
    if (!kind.options.empty()) must(out, archive_write_set_options(out, kind.options.c_str()));
    if (!key.empty()) {
        must(out, archive_write_set_options(out, "zip:encryption=aes256"));
        must(out, archive_write_set_passphrase(out, key.c_str()));
    }
    must(out, archive_write_open_filename(out, path.c_str()));
    for (const zl::OutFile& file : files) {
        archive_entry* entry = archive_entry_new();
        archive_entry_set_pathname(entry, file.name.c_str());
        const bool link = file.bytes.starts_with("link:");
        archive_entry_set_filetype(entry, link ? AE_IFLNK : AE_IFREG);
        if (link) archive_entry_set_symlink(entry, file.bytes.c_str() + 5);
        archive_entry_set_perm(entry, 0644);
        archive_entry_set_size(entry, link ? 0 : la_int64_t(file.bytes.size()));
        must(out, archive_write_header(out, entry));
        if (!link) archive_write_data(out, file.bytes.data(), file.bytes.size());
        archive_entry_free(entry);
    }
    must(out, archive_write_close(out));
    archive_write_free(out);
}

inline void run(sqlite3* database, const std::string& sql) {
    if (sqlite3_exec(database, sql.c_str(), nullptr, nullptr, nullptr) != SQLITE_OK)
        throw std::runtime_error(sqlite3_errmsg(database));
}

/// A package of SQLite's own kind, its files not packed; `also` is run at the end.
inline void writePackage(const std::filesystem::path& path, const std::vector<zl::OutFile>& files,
                         const std::string& also = {}) {
    std::filesystem::remove(path);
    sqlite3* database = nullptr;
    sqlite3_open(path.c_str(), &database);
    run(database, "CREATE TABLE sqlar(name TEXT PRIMARY KEY, mode INT, mtime INT, sz INT, data BLOB)");
    for (const zl::OutFile& file : files) {
        sqlite3_stmt* put = nullptr;
        sqlite3_prepare_v2(database, "INSERT INTO sqlar VALUES(?1, 33188, 0, ?2, ?3)", -1, &put, nullptr);
        sqlite3_bind_text(put, 1, file.name.data(), int(file.name.size()), SQLITE_STATIC);
        sqlite3_bind_int64(put, 2, sqlite3_int64(file.bytes.size()));
        sqlite3_bind_blob(put, 3, file.bytes.data(), int(file.bytes.size()), SQLITE_STATIC);
        sqlite3_step(put);
        sqlite3_finalize(put);
    }
    if (!also.empty()) run(database, also);
    sqlite3_close(database);
}

} // namespace containers
