#include "standins/house/row_file.h"

#include <fmt/format.h>
#include <sqlite3.h>

#include <cstring>
#include <fstream>

namespace zl::standins::house {

namespace {

constexpr std::int64_t mostBytes = 256 << 20;

std::string textAt(sqlite3_stmt* row, int column) {
    const void* data = sqlite3_column_blob(row, column);
    return data ? std::string(static_cast<const char*>(data), std::size_t(sqlite3_column_bytes(row, column)))
                : std::string();
}

/// Calls `take` for each row; the problem in words, or none.
template <class Take>
std::string eachRow(sqlite3* database, const char* sql, const Take& take) {
    sqlite3_stmt* statement = nullptr;
    if (sqlite3_prepare_v2(database, sql, -1, &statement, nullptr) != SQLITE_OK)
        return sqlite3_errmsg(database);
    int result = SQLITE_ROW;
    while ((result = sqlite3_step(statement)) == SQLITE_ROW) take(statement);
    const std::string problem = result == SQLITE_DONE ? "" : sqlite3_errmsg(database);
    sqlite3_finalize(statement);
    return problem;
}

/// Fewer pages than the head says there are.
bool isCut(sqlite3* database, const std::filesystem::path& path) {
    std::int64_t promised = 0;
    std::ifstream in(path, std::ios::binary);
    in.seekg(28);
    for (int i = 0; i < 4; ++i) promised = promised << 8 | in.get();
    std::int64_t edge = 0;
    eachRow(database, "PRAGMA page_size", [&](sqlite3_stmt* at) { edge = sqlite3_column_int64(at, 0); });
    std::error_code error;
    return promised * edge > std::int64_t(std::filesystem::file_size(path, error));
}

} // namespace

RowFile readRowFile(const std::filesystem::path& path) {
    RowFile row;
    row.file = path.filename().string();
    sqlite3* database = nullptr;
    if (sqlite3_open_v2(path.c_str(), &database, SQLITE_OPEN_READONLY, nullptr) == SQLITE_OK) {
        sqlite3_db_config(database, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
        sqlite3_db_config(database, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
        sqlite3_limit(database, SQLITE_LIMIT_LENGTH, int(mostBytes));
        std::int64_t bytes = 0;
        row.problem = eachRow(database, "SELECT kind, \"group\", number, name, data FROM resources",
                              [&](sqlite3_stmt* at) {
                                  if ((bytes += sqlite3_column_bytes(at, 4)) > mostBytes) return;
                                  Resource resource;
                                  resource.kind = std::uint32_t(sqlite3_column_int64(at, 0));
                                  resource.key = fmt::format("{:02x}:{:08x}:{:016x}", resource.kind,
                                                             std::uint32_t(sqlite3_column_int64(at, 1)),
                                                             std::uint64_t(sqlite3_column_int64(at, 2)));
                                  resource.name = textAt(at, 3), resource.bytes = textAt(at, 4);
                                  row.resources.push_back(std::move(resource));
                              });
        if (row.problem.empty() && isCut(database, path)) row.problem = "it ends too early";
        if (bytes > mostBytes) row.problem = "it is larger than the game loads";
        eachRow(database, "SELECT word, value FROM about LIMIT 50", [&](sqlite3_stmt* at) {
            if (textAt(at, 0) == "maker") row.maker = textAt(at, 1);
            if (textAt(at, 0) == "credit") row.credit = textAt(at, 1);
        });
    } else {
        row.problem = sqlite3_errmsg(database);
    }
    sqlite3_close(database);
    return row;
}

std::vector<Group> groupsOf(const std::string& bytes, std::string& problem) {
    std::size_t at = 0;
    bool whole = true;
    const auto take = [&](void* to, std::size_t size) {
        if (size == 0) return; // an empty list has no place to copy to
        if (size > bytes.size() - at) {
            whole = false;
            std::memset(to, 0, size);
            return;
        }
        std::memcpy(to, bytes.data() + at, size);
        at += size;
    };
    const auto number = [&] {
        std::uint32_t value = 0;
        take(&value, 4);
        return value;
    };
    const auto fail = [&](const char* why) {
        problem = why;
        return std::vector<Group>();
    };
    char mark[8] = {};
    take(mark, 8);
    if (std::memcmp(mark, "ROWMESH1", 8) != 0) return fail("it is no geometry");
    const bool zUp = number() == 1;
    const std::uint32_t corners = number(), triangles = number(), count = number();
    const std::uint64_t rest = std::uint64_t(corners) * 32 + std::uint64_t(triangles) * 12;
    if (!whole || rest > bytes.size() || count > bytes.size() / 26) return fail("it is cut short");
    struct Run {
        std::uint32_t first = 0, count = 0;
    };
    std::vector<Group> groups(count);
    std::vector<Run> runs(count);
    for (std::uint32_t g = 0; g < count; ++g) {
        runs[g].first = number(), runs[g].count = number();
        const std::uint32_t kind = number(), group = number();
        std::uint64_t material = 0;
        take(&material, 8);
        std::uint16_t length = 0;
        take(&length, 2);
        groups[g].name.resize(length);
        take(groups[g].name.data(), length);
        if (material) groups[g].material = fmt::format("{:02x}:{:08x}:{:016x}", kind, group, material);
        if (std::uint64_t(runs[g].first) + runs[g].count > triangles)
            return fail("a group leads beyond its end");
    }
    if (!whole || rest > bytes.size() - at) return fail("it is cut short");
    std::vector<glm::vec3> places(corners), normals(corners);
    std::vector<glm::vec2> uvs(corners);
    std::vector<std::uint32_t> indices(std::size_t(triangles) * 3);
    take(places.data(), corners * sizeof(glm::vec3));
    take(normals.data(), corners * sizeof(glm::vec3));
    take(uvs.data(), corners * sizeof(glm::vec2));
    take(indices.data(), indices.size() * 4);
    if (zUp)
        for (auto* list : {&places, &normals})
            for (glm::vec3& v : *list) v = {v.x, v.z, -v.y};
    for (std::uint32_t g = 0; g < count; ++g) {
        world::Shape& shape = groups[g].shape;
        std::vector<std::uint32_t> own(corners, ~0u);
        for (std::size_t i = std::size_t(runs[g].first) * 3;
             i < (std::size_t(runs[g].first) + runs[g].count) * 3; ++i) {
            const std::uint32_t corner = indices[i];
            if (corner >= corners) return fail("a triangle names a corner that is not there");
            if (own[corner] == ~0u) {
                own[corner] = std::uint32_t(shape.positions.size());
                shape.positions.push_back(places[corner]);
                shape.normals.push_back(normals[corner]);
                shape.uvs.push_back(uvs[corner]);
            }
            shape.indices.push_back(own[corner]);
        }
    }
    return groups;
}

} // namespace zl::standins::house
