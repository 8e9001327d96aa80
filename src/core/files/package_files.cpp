// The files of an SQLite package: the table "sqlar" of SQLite's own archives (sqlite.org/sqlar.html), whose
// rows are a name, a length and bytes, packed by zlib where that made them shorter. Opened for reading only,
// with nothing in the file trusted: its triggers, views and functions are never run.
#include "core/files/containers.h"

#include "core/files/listing.h"

#include "core/base/error.h"
#include "core/base/stamp.h"
#include "core/base/utf8.h"

#include <fmt/format.h>
#include <sqlite3.h>
#include <zlib.h>

#include <algorithm>

namespace zl::files {

namespace {

struct Close {
    void operator()(sqlite3* database) const { sqlite3_close(database); }
    void operator()(sqlite3_stmt* statement) const { sqlite3_finalize(statement); }
};
using Database = std::unique_ptr<sqlite3, Close>;
using Statement = std::unique_ptr<sqlite3_stmt, Close>;

/// Places in its listing are rows.
class PackageFiles final : public ListedFiles {
public:
    PackageFiles(const std::filesystem::path& file, const Limits& limits)
        : ListedFiles(file.string(), limits, stampOf(file)), file_(file) {
        sqlite3* opened = nullptr;
        const int result =
            sqlite3_open_v2(file_.c_str(), &opened, SQLITE_OPEN_READONLY | SQLITE_OPEN_NOMUTEX, nullptr);
        database_.reset(opened);
        if (result != SQLITE_OK) fail();
        sqlite3_db_config(opened, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
        sqlite3_db_config(opened, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
        sqlite3_db_config(opened, SQLITE_DBCONFIG_ENABLE_TRIGGER, 0, nullptr);
        sqlite3_db_config(opened, SQLITE_DBCONFIG_ENABLE_VIEW, 0, nullptr);
        sqlite3_limit(opened, SQLITE_LIMIT_LENGTH, int(std::min<std::uint64_t>(limits_.bytes, 1u << 30)));
        sqlite3_exec(opened, "PRAGMA cell_size_check = ON", nullptr, nullptr, nullptr);
        walk();
    }

    FileBytes open(std::string_view path, const Progress& progress) const override {
        const std::int64_t row = listing_.mustHave(path);
        progress.checkCancel();
        demandStamp(stampOf(file_));
        const Statement read = prepared("SELECT sz, data FROM sqlar WHERE rowid = ?1");
        sqlite3_bind_int64(read.get(), 1, row);
        if (sqlite3_step(read.get()) != SQLITE_ROW) fail();
        const sqlite3_int64 size = sqlite3_column_int64(read.get(), 0);
        const auto* data = static_cast<const char*>(sqlite3_column_blob(read.get(), 1));
        const std::size_t held = std::size_t(sqlite3_column_bytes(read.get(), 1));
        limits_.checkBytes(std::uint64_t(size), path, where_);
        limits_.checkRatio(std::uint64_t(size), held, path, where_);
        auto bytes = std::unique_ptr<char[]>(new char[std::size_t(size)]);
        if (std::uint64_t(size) == held) {
            std::copy_n(data, held, bytes.get());
        } else {
            uLongf got = uLongf(size);
            if (::uncompress(reinterpret_cast<Bytef*>(bytes.get()), &got,
                             reinterpret_cast<const Bytef*>(data), held) != Z_OK ||
                got != uLongf(size))
                throw Error(fmt::format("holds \"{}\", which is broken", path), where_,
                            "Copy the package again.");
        }
        return {std::move(bytes), std::size_t(size)};
    }

private:
    void walk() {
        if (const Statement table =
                prepared("SELECT count(*) FROM sqlite_schema WHERE name = 'sqlar' AND type = 'table'");
            sqlite3_step(table.get()) != SQLITE_ROW)
            fail();
        else if (sqlite3_column_int(table.get(), 0) != 1)
            throw Error("is an SQLite file without a table of files (\"sqlar\")", where_,
                        "Choose an archive that SQLite made.");
        // A folder has no bytes at all, a link the length -1.
        const Statement all =
            prepared("SELECT rowid, name, sz FROM sqlar WHERE data IS NOT NULL AND sz >= 0 ORDER BY rowid");
        int result = SQLITE_ROW;
        while ((result = sqlite3_step(all.get())) == SQLITE_ROW) {
            const auto* name = reinterpret_cast<const char*>(sqlite3_column_text(all.get(), 1));
            listing_.add(asUtf8(name ? name : ""), sqlite3_column_int64(all.get(), 0),
                         std::uint64_t(sqlite3_column_int64(all.get(), 2)), false);
        }
        if (result != SQLITE_DONE) fail();
    }

    Statement prepared(const char* sql) const {
        sqlite3_stmt* made = nullptr;
        if (sqlite3_prepare_v2(database_.get(), sql, -1, &made, nullptr) != SQLITE_OK) fail();
        return Statement(made);
    }
    [[noreturn]] void fail() const {
        throw Error(fmt::format("is no package that can be opened ({})", sqlite3_errmsg(database_.get())),
                    where_, "Copy the package again.");
    }

    std::filesystem::path file_;
    Database database_;
};

} // namespace

std::unique_ptr<Files> packageFiles(const std::filesystem::path& file, const Terms& terms) {
    return std::make_unique<PackageFiles>(file, terms.limits);
}

} // namespace zl::files
