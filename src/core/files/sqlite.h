#pragma once
#include "core/base/progress.h"
#include "core/files/limits.h"

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>

struct sqlite3;
struct sqlite3_stmt;

namespace zl::files {

/// A statement of SQL, run row by row. Columns and values count from 0 and from 1, as SQLite has it.
class Statement {
public:
    Statement(sqlite3* database, std::string_view sql, std::string where);

    /// False behind the last row. Throws Error when the file is broken, Cancelled when its database's
    /// progress was cancelled.
    bool step();
    void reset();

    bool isNull(int column) const;
    std::int64_t integer(int column) const;
    /// As it stands there, be it UTF-8 or not; valid until the next step.
    std::string_view bytes(int column) const;
    /// Always UTF-8.
    std::string text(int column) const;

    Statement& bind(int place, std::int64_t value);
    /// Both must stay until the statement was run.
    Statement& bindText(int place, std::string_view value);
    Statement& bindBytes(int place, std::string_view value);

private:
    struct Finish {
        void operator()(sqlite3_stmt* statement) const;
    };
    sqlite3* database_;
    std::unique_ptr<sqlite3_stmt, Finish> statement_;
    std::string where_;
};

/// An SQLite file of somebody else's, opened for reading only, with nothing in it trusted: its triggers,
/// views and functions are never run, and no value is longer than the limits allow. Or one in memory, made
/// here.
class Database {
public:
    /// Throws Error when it is no SQLite file. `progress` is asked while statements run.
    static Database reading(const std::filesystem::path& file, const Limits& limits,
                            const Progress& progress = {});
    static Database inMemory();

    Statement prepared(std::string_view sql) const { return {database_.get(), sql, where_}; }
    /// For statements without rows.
    void run(std::string_view sql) const;
    bool hasTable(std::string_view name) const;
    bool hasColumn(std::string_view table, std::string_view column) const;
    /// The whole database as the bytes of a file.
    std::string serialized() const;
    const std::string& where() const { return where_; }

private:
    struct Close {
        void operator()(sqlite3* database) const;
    };
    Database(sqlite3* opened, std::string where) : database_(opened), where_(std::move(where)) {}

    std::unique_ptr<sqlite3, Close> database_;
    std::string where_;
    std::shared_ptr<Progress> progress_;
};

/// Whether a file begins as SQLite's do.
bool isSqlite(const std::filesystem::path& file);

} // namespace zl::files
