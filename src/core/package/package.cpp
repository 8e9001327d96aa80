#include "core/package/package.h"

#include "core/package/references.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <deque>
#include <set>

namespace zl::package {

namespace {

constexpr std::string_view columns = "kind, \"group\", number, name";

ResourceKey keyIn(const files::Statement& row) {
    return {std::uint32_t(row.integer(0)), std::uint32_t(row.integer(1)), std::uint64_t(row.integer(2))};
}

files::Database opened(const std::filesystem::path& file, const files::Limits& limits,
                       const Progress& progress) {
    auto database = files::Database::reading(file, limits, progress);
    if (!database.hasTable("resources"))
        throw Error("is no row package: it has no table of resources", file.string(),
                    "Choose a package or a catalogue of the game.");
    return database;
}

void checkAllBytes(std::uint64_t bytes, const files::Limits& limits, const std::filesystem::path& file) {
    const std::uint64_t most = limits.bytes > files::Limits{}.bytes ? limits.bytes : std::uint64_t(512) << 20;
    if (bytes > most)
        throw files::OverLimit(
            fmt::format("holds {}; a package may hold {}", showBytes(double(bytes)), showBytes(double(most))),
            file.string(), "Open it all the same only if you trust it.");
}

Resource resourceIn(const files::Statement& row) {
    return {keyIn(row), row.text(3), std::make_shared<const std::string>(row.bytes(4))};
}

} // namespace

const Resource* Package::resource(const ResourceKey& key) const {
    const auto found = std::ranges::find(resources, key, &Resource::key);
    return found == resources.end() ? nullptr : &*found;
}

Resource* Package::resource(const ResourceKey& key) {
    return const_cast<Resource*>(std::as_const(*this).resource(key));
}

const Resource* Package::first(ResourceKind kind) const {
    const auto found = std::ranges::find_if(resources, [&](const Resource& r) { return r.key.is(kind); });
    return found == resources.end() ? nullptr : &*found;
}

namespace {

void readAbout(const files::Database& database, Package& package) {
    if (!database.hasTable("about")) return;
    files::Statement all = database.prepared("SELECT word, value FROM about LIMIT 100");
    while (all.step()) {
        if (all.text(0) == "maker") package.maker = all.text(1);
        if (all.text(0) == "credit") package.credit = all.text(1);
    }
}

} // namespace

Package readPackage(const std::filesystem::path& file, const files::Limits& limits,
                    const Progress& progress) {
    const auto database = opened(file, limits, progress);
    Package package;
    package.file = file;
    readAbout(database, package);
    files::Statement all = database.prepared(
        fmt::format("SELECT {}, data, length(data) FROM resources ORDER BY rowid", columns));
    std::uint64_t bytes = 0;
    while (all.step()) {
        limits.checkEntries(package.resources.size() + 1, file.string());
        checkAllBytes(bytes += std::uint64_t(all.integer(5)), limits, file);
        package.resources.push_back(resourceIn(all));
    }
    return package;
}

Package readItem(const std::filesystem::path& file, const ResourceKey& key, const files::Limits& limits,
                 const Progress& progress) {
    const auto database = opened(file, limits, progress);
    Package package;
    package.file = file;
    readAbout(database, package);
    std::deque<ResourceKey> wanted{key};
    files::Statement around = database.prepared(fmt::format(
        "SELECT {} FROM resources WHERE kind = ?1 AND instr(CAST(data AS TEXT), ?2) ORDER BY rowid",
        columns));
    const std::string asText = textOf(key);
    around.bind(1, std::int64_t(ResourceKind::Entry)).bindText(2, asText);
    if (!key.is(ResourceKind::Entry) && around.step()) wanted.push_back(keyIn(around));
    files::Statement byKey = database.prepared(fmt::format(
        "SELECT {}, data, length(data), rowid FROM resources WHERE kind = ?1 AND \"group\" = ?2 AND "
        "number = ?3",
        columns));
    files::Statement byName = database.prepared(
        fmt::format("SELECT {} FROM resources WHERE kind = ?1 AND name = ?2 ORDER BY rowid", columns));
    std::set<ResourceKey> seen;
    std::vector<std::pair<std::int64_t, Resource>> reached; ///< with their rows
    std::uint64_t bytes = 0;
    for (; !wanted.empty(); wanted.pop_front()) {
        if (!seen.insert(wanted.front()).second) continue;
        byKey.reset();
        byKey.bind(1, wanted.front().kind)
            .bind(2, wanted.front().group)
            .bind(3, std::int64_t(wanted.front().number));
        if (!byKey.step()) continue;
        checkAllBytes(bytes += std::uint64_t(byKey.integer(5)), limits, file);
        reached.emplace_back(byKey.integer(6), resourceIn(byKey));
        for (const Reference& reference : referencesIn(reached.back().second)) {
            if (reference.key) {
                wanted.push_back(*reference.key);
                continue;
            }
            byName.reset();
            byName.bind(1, reference.kind).bindText(2, reference.name);
            if (byName.step()) wanted.push_back(keyIn(byName));
        }
    }
    std::ranges::sort(reached, {}, [](const auto& entry) { return entry.first; });
    for (auto& [row, resource] : reached) package.resources.push_back(std::move(resource));
    if (package.resources.empty() || !package.resource(key))
        throw Error(fmt::format("does not hold the {} {:016x}", files::kindWord(key.kind), key.number),
                    file.string(), "Choose one of its resources.");
    return package;
}

std::string bytesOf(const Package& package) {
    const auto database = files::Database::inMemory();
    writeInto(database, package);
    return database.serialized();
}

void writeInto(const files::Database& database, const Package& package) {
    database.run(
        "CREATE TABLE about(word TEXT PRIMARY KEY, value TEXT);"
        "CREATE TABLE resources(kind INTEGER NOT NULL, \"group\" INTEGER NOT NULL, number INTEGER NOT "
        "NULL, name TEXT NOT NULL, data BLOB NOT NULL, PRIMARY KEY(kind, \"group\", number));"
        "BEGIN");
    files::Statement about = database.prepared("INSERT INTO about VALUES(?1, ?2)");
    for (const auto& [word, value] : {std::pair<std::string_view, const std::string&>{"maker", package.maker},
                                      {"credit", package.credit}}) {
        if (value.empty()) continue;
        about.bindText(1, word).bindText(2, value).step();
        about.reset();
    }
    files::Statement row = database.prepared("INSERT INTO resources VALUES(?1, ?2, ?3, ?4, ?5)");
    for (const Resource& resource : package.resources) {
        row.bind(1, resource.key.kind).bind(2, resource.key.group).bind(3, std::int64_t(resource.key.number));
        row.bindText(4, resource.name).bindBytes(5, *resource.bytes).step();
        row.reset();
    }
    database.run("COMMIT");
}

Index indexOf(const Package& package) {
    Index index{package.file, {}};
    for (const Resource& resource : package.resources)
        index.resources.emplace_back(resource.key, resource.name);
    return index;
}

Index readIndex(const std::filesystem::path& file, const files::Limits& limits, const Progress& progress) {
    const auto database = opened(file, limits, progress);
    files::Statement all = database.prepared(fmt::format("SELECT {} FROM resources ORDER BY rowid", columns));
    Index index{file, {}};
    while (all.step()) {
        limits.checkEntries(index.resources.size() + 1, file.string());
        index.resources.emplace_back(keyIn(all), all.text(3));
    }
    return index;
}

bool hasSame(const std::filesystem::path& file, const Resource& resource) {
    try {
        const auto database = opened(file, {}, {});
        files::Statement same =
            database.prepared("SELECT 1 FROM resources WHERE kind = ?1 AND \"group\" = ?2 AND "
                              "number = ?3 AND name = ?4 AND data = ?5");
        same.bind(1, resource.key.kind).bind(2, resource.key.group);
        same.bind(3, std::int64_t(resource.key.number));
        same.bindText(4, resource.name).bindBytes(5, *resource.bytes);
        return same.step();
    } catch (const Error&) {
        return false;
    }
}

std::vector<Index> indicesBeside(const std::filesystem::path& file, const Progress& progress) {
    std::vector<std::filesystem::path> beside;
    std::error_code error;
    const auto folder = file.has_parent_path() ? file.parent_path() : std::filesystem::path(".");
    for (const auto& entry : std::filesystem::directory_iterator(folder, error)) {
        const std::string ending = lowerCase(entry.path().extension().string());
        if ((ending == ".rowpackage" || ending == ".rowcatalogue") &&
            !std::filesystem::equivalent(entry.path(), file, error))
            beside.push_back(entry.path());
    }
    std::ranges::sort(beside);
    std::vector<Index> indices;
    for (const auto& other : beside) try {
            indices.push_back(readIndex(other, {}, progress));
        } catch (const Error&) {
            continue; // no package: it can hold no number twice
        }
    return indices;
}

} // namespace zl::package
