#include "core/files/sqlite.h"

#include "core/base/error.h"
#include "core/base/utf8.h"

#include <fmt/format.h>
#include <sqlite3.h>

#include <algorithm>
#include <array>
#include <fstream>

namespace zl::files {

namespace {

[[noreturn]] void failSqlite(sqlite3* database, const std::string& where) {
    if (sqlite3_errcode(database) == SQLITE_INTERRUPT) throw Cancelled();
    throw Error(fmt::format("cannot be read as SQLite ({})", sqlite3_errmsg(database)), where,
                "Copy the file again.");
}

/// Whether the file ends before the pages that its head promises (sqlite.org/fileformat.html, 1.3: the number
/// of pages at 28 counts where the versions at 24 and 92 agree). SQLite itself notices only when it gets
/// there.
bool isCutShort(const std::filesystem::path& file) {
    std::array<unsigned char, 100> head{};
    std::ifstream in(file, std::ios::binary);
    if (!in.read(reinterpret_cast<char*>(head.data()), head.size())) return false; // SQLite says what it is
    const auto number = [&](std::size_t at, int bytes) {
        std::uint64_t value = 0;
        for (int i = 0; i < bytes; ++i) value = value << 8 | head[at + std::size_t(i)];
        return value;
    };
    const std::uint64_t edge = number(16, 2) == 1 ? 65536 : number(16, 2);
    std::error_code error;
    const auto size = std::filesystem::file_size(file, error);
    return !error && number(24, 4) == number(92, 4) && number(28, 4) * edge > size;
}

} // namespace

void Statement::Finish::operator()(sqlite3_stmt* statement) const {
    sqlite3_finalize(statement);
}

Statement::Statement(sqlite3* database, std::string_view sql, std::string where)
    : database_(database), where_(std::move(where)) {
    sqlite3_stmt* made = nullptr;
    if (sqlite3_prepare_v2(database, sql.data(), int(sql.size()), &made, nullptr) != SQLITE_OK)
        failSqlite(database, where_);
    statement_.reset(made);
}

bool Statement::step() {
    const int result = sqlite3_step(statement_.get());
    if (result == SQLITE_ROW) return true;
    if (result != SQLITE_DONE) failSqlite(database_, where_);
    return false;
}

void Statement::reset() {
    sqlite3_reset(statement_.get());
}

bool Statement::isNull(int column) const {
    return sqlite3_column_type(statement_.get(), column) == SQLITE_NULL;
}

std::int64_t Statement::integer(int column) const {
    return sqlite3_column_int64(statement_.get(), column);
}

std::string_view Statement::bytes(int column) const {
    const auto* data = static_cast<const char*>(sqlite3_column_blob(statement_.get(), column));
    if (!data) return {};
    return {data, std::size_t(sqlite3_column_bytes(statement_.get(), column))};
}

std::string Statement::text(int column) const {
    const auto* data = reinterpret_cast<const char*>(sqlite3_column_text(statement_.get(), column));
    if (!data) return {};
    return asUtf8({data, std::size_t(sqlite3_column_bytes(statement_.get(), column))});
}

Statement& Statement::bind(int place, std::int64_t value) {
    sqlite3_bind_int64(statement_.get(), place, value);
    return *this;
}

Statement& Statement::bindText(int place, std::string_view value) {
    sqlite3_bind_text64(statement_.get(), place, value.data(), value.size(), SQLITE_STATIC, SQLITE_UTF8);
    return *this;
}

Statement& Statement::bindBytes(int place, std::string_view value) {
    sqlite3_bind_blob64(statement_.get(), place, value.data(), value.size(), SQLITE_STATIC);
    return *this;
}

void Database::Close::operator()(sqlite3* database) const {
    sqlite3_close(database);
}

Database Database::reading(const std::filesystem::path& file, const Limits& limits,
                           const Progress& progress) {
    sqlite3* opened = nullptr;
    const int result =
        sqlite3_open_v2(file.c_str(), &opened, SQLITE_OPEN_READONLY | SQLITE_OPEN_NOMUTEX, nullptr);
    Database database(opened, file.string());
    if (result != SQLITE_OK) failSqlite(opened, database.where_);
    if (isSqlite(file) && isCutShort(file))
        throw Error("was cut off", database.where_, "Copy the file again.");
    sqlite3_db_config(opened, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
    sqlite3_db_config(opened, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
    sqlite3_db_config(opened, SQLITE_DBCONFIG_ENABLE_TRIGGER, 0, nullptr);
    sqlite3_db_config(opened, SQLITE_DBCONFIG_ENABLE_VIEW, 0, nullptr);
    sqlite3_limit(opened, SQLITE_LIMIT_LENGTH, int(std::min<std::uint64_t>(limits.bytes, 1u << 30)));
    sqlite3_exec(opened, "PRAGMA cell_size_check = ON", nullptr, nullptr, nullptr);
    database.progress_ = std::make_shared<Progress>(progress);
    sqlite3_progress_handler(
        opened, 10'000, [](void* asked) { return int(static_cast<Progress*>(asked)->isCancelled()); },
        database.progress_.get());
    return database;
}

Database Database::inMemory() {
    sqlite3* opened = nullptr;
    const int result = sqlite3_open_v2(
        ":memory:", &opened, SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE | SQLITE_OPEN_NOMUTEX, nullptr);
    Database database(opened, "SQLite in memory");
    if (result != SQLITE_OK) failSqlite(opened, database.where_);
    return database;
}

void Database::run(std::string_view sql) const {
    if (sqlite3_exec(database_.get(), std::string(sql).c_str(), nullptr, nullptr, nullptr) != SQLITE_OK)
        failSqlite(database_.get(), where_);
}

bool Database::hasTable(std::string_view name) const {
    Statement asked = prepared("SELECT 1 FROM sqlite_schema WHERE name = ?1 AND type = 'table'");
    asked.bindText(1, name);
    return asked.step();
}

bool Database::hasColumn(std::string_view table, std::string_view column) const {
    Statement asked = prepared("SELECT 1 FROM pragma_table_info(?1) WHERE name = ?2");
    asked.bindText(1, table).bindText(2, column);
    return asked.step();
}

std::string Database::serialized() const {
    sqlite3_int64 size = 0;
    const std::unique_ptr<unsigned char, void (*)(void*)> bytes(
        sqlite3_serialize(database_.get(), "main", &size, 0), sqlite3_free);
    if (!bytes) throw Error("there is not enough memory to write it", where_);
    return {reinterpret_cast<const char*>(bytes.get()), std::size_t(size)};
}

bool isSqlite(const std::filesystem::path& file) {
    constexpr std::string_view mark("SQLite format 3\0", 16);
    std::array<char, mark.size()> head{};
    std::ifstream(file, std::ios::binary).read(head.data(), head.size());
    return std::ranges::equal(head, mark);
}

} // namespace zl::files
