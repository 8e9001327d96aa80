#include "measure.h"

#include "core/base/file_set.h"
#include "core/install/city.h"
#include "core/install/city_shapes.h"
#include "demo_data.h"

#include <glm/glm.hpp>

#include <sqlite3.h>

#include <cmath>

using namespace zl;

namespace bench {

namespace {

constexpr int placements = 20000;

/// The demo's city, whose things stand where `placements` lines say.
void writeWorld(const std::filesystem::path& folder) {
    auto files = demo::portCalderGame();
    std::string table = "name,x,y,z,qx,qy,qz,qw\n";
    for (int i = 0; i < placements; ++i)
        table += fmt::format("house-{:02},{:.2f},{:.2f},6,0,0,{:.6f},{:.6f}\n", 1 + i % 80,
                             300 + i % 200 * 1.0, i / 200 * 2.0, std::sin(i * 0.01), std::cos(i * 0.01));
    for (OutFile& file : files) {
        file.name = std::filesystem::path(file.name).filename().string();
        if (file.name == "placements-lamplighters.csv") file.bytes = table;
    }
    std::filesystem::remove_all(folder);
    writeAllOrNone(folder, files);
}

/// The same numbers put into a table of SQLite's, in memory, by one prepared statement: no text is read.
void insertBare() {
    sqlite3* base = nullptr;
    sqlite3_open(":memory:", &base);
    sqlite3_exec(base, "create table placements(name text, x, y, z, qx, qy, qz, qw); begin", nullptr, nullptr,
                 nullptr);
    sqlite3_stmt* insert = nullptr;
    sqlite3_prepare_v2(base, "insert into placements values(?, ?, ?, ?, ?, ?, ?, ?)", -1, &insert, nullptr);
    for (int i = 0; i < placements; ++i) {
        sqlite3_bind_text(insert, 1, "house-01", -1, SQLITE_STATIC);
        for (int k = 2; k <= 8; ++k) sqlite3_bind_double(insert, k, i * 0.1 + k);
        sqlite3_step(insert);
        sqlite3_reset(insert);
    }
    sqlite3_finalize(insert);
    sqlite3_exec(base, "commit", nullptr, nullptr, nullptr);
    sqlite3_close(base);
}

} // namespace

void worldRows(const std::filesystem::path& folder) {
    const auto world = folder / "world";
    writeWorld(world);
    const double read = middleSeconds([&] { benchmark::DoNotOptimize(install::readCity(world)); });
    const auto city = install::readCity(world);
    const double shapes = middleSeconds(
        [&] { benchmark::DoNotOptimize(install::cityShapes(city, glm::dmat4(1), std::string())); });
    const double bare = middleSeconds(insertBare);
    timeRow(fmt::format("read a city of {} placements", city.places.size()).c_str(), read,
            "the same into SQLite, no text read", bare, "with the next, 0.5 s");
    timeRow("meshes of all that stands there", shapes, "the same", bare, "with the last, 0.5 s");
}

} // namespace bench
