#include "core/catalogue/catalogue.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/files/files.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <array>
#include <numeric>

namespace zl::catalogue {

namespace {

/// "kid-armBasketOrange" as "kid arm Basket Orange".
std::string takenApart(std::string_view code) {
    std::string out;
    for (std::size_t i = 0; i < code.size(); ++i) {
        const bool capital = code[i] >= 'A' && code[i] <= 'Z';
        if (capital && i > 0 && code[i - 1] >= 'a' && code[i - 1] <= 'z') out += ' ';
        out += code[i] == '-' || code[i] == '_' ? ' ' : code[i];
    }
    return out;
}

/// Each word in quotation marks with a star: FTS5 then takes it as the beginning of a word. Whatever is
/// neither letter nor digit stands between words, as FTS5's own tokens have it.
std::string searchFor(std::string_view text) {
    std::string out, word;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        const auto c =
            i < text.size() ? static_cast<unsigned char>(text[i]) : static_cast<unsigned char>(' ');
        if (std::isalnum(c) || c >= 0x80)
            word += char(c);
        else if (!word.empty())
            out += fmt::format("\"{}\"* ", std::exchange(word, {}));
    }
    return out;
}

} // namespace

Catalogue::Catalogue(const std::filesystem::path& file, const files::Limits& limits, const Progress& progress)
    : file_(file), limits_(limits), database_(files::Database::reading(file, limits, progress)),
      words_(files::Database::inMemory()) {
    const auto has = [&](std::string_view column) { return database_.hasColumn("entries", column); };
    if (!database_.hasTable("entries") || !has("number") || !has("code"))
        throw Error("is no catalogue: it has no table of entries with number and code", file.string(),
                    "Choose the game's catalogue.");
    constexpr std::array<std::string_view, 12> wanted{"title", "pack",  "kind",      "place",
                                                      "bone",  "maker", "licence",   "permission",
                                                      "link",  "added", "thumbnail", "resource"};
    std::string columns = "number, code";
    for (const std::string_view column : wanted)
        columns += has(column) ? fmt::format(", {}", column) : std::string(", NULL");
    files::Statement all = database_.prepared(fmt::format("SELECT {} FROM entries ORDER BY number", columns));
    while (all.step()) {
        limits.checkEntries(entries_.size() + 1, file.string());
        Entry entry;
        entry.number = all.integer(0), entry.code = all.text(1);
        int column = 2;
        for (std::string* text : {&entry.title, &entry.pack, &entry.kind, &entry.place, &entry.bone,
                                  &entry.maker, &entry.licence, &entry.permission, &entry.link})
            *text = all.text(column++);
        entry.added = all.integer(column), entry.thumbnail = std::uint64_t(all.integer(column + 1));
        entry.resource = std::uint64_t(all.integer(column + 2));
        if (entry.title.empty()) entry.title = entry.code;
        if (entry.permission.empty()) entry.permission = entry.isOthersWork() ? "ask-first" : "allowed";
        entries_.push_back(std::move(entry));
    }
    index(progress);
}

void Catalogue::index(const Progress& progress) {
    words_.run("CREATE VIRTUAL TABLE words USING fts5(text, content='', detail=none, "
               "tokenize='unicode61 remove_diacritics 2', prefix='1 2 3'); BEGIN");
    files::Statement add = words_.prepared("INSERT INTO words(rowid, text) VALUES(?1, ?2)");
    for (std::size_t e = 0; e < entries_.size(); ++e) {
        if ((e & 0xfff) == 0) progress.report(double(e) / double(entries_.size()), "indexing");
        const Entry& entry = entries_[e];
        const std::string text = fmt::format("{} {} {} {}", entry.title, takenApart(entry.code),
                                             lowerCase(entry.code), entry.pack);
        add.bind(1, std::int64_t(e)).bindText(2, text).step();
        add.reset();
    }
    words_.run("COMMIT");
}

std::vector<std::uint32_t> Catalogue::find(std::string_view text) const {
    const std::string search = searchFor(takenApart(text));
    std::vector<std::uint32_t> found;
    if (search.empty()) {
        found.resize(entries_.size());
        std::iota(found.begin(), found.end(), 0u);
        return found;
    }
    files::Statement ask = words_.prepared("SELECT rowid FROM words WHERE words MATCH ?1 ORDER BY rowid");
    ask.bindText(1, search);
    while (ask.step()) found.push_back(std::uint32_t(ask.integer(0)));
    return found;
}

std::vector<std::uint32_t> Catalogue::ordered(Order order) const {
    std::vector<std::string> titles;
    std::ranges::transform(entries_, std::back_inserter(titles),
                           [](const Entry& e) { return lowerCase(e.title); });
    std::vector<std::uint32_t> places(entries_.size());
    std::iota(places.begin(), places.end(), 0u);
    std::ranges::sort(places, [&](std::uint32_t a, std::uint32_t b) {
        const Entry &left = entries_[a], &right = entries_[b];
        if (order == Order::Pack && left.pack != right.pack) return left.pack < right.pack;
        if (order == Order::Newest && left.added != right.added) return left.added > right.added;
        return std::tie(titles[a], left.number, a) < std::tie(titles[b], right.number, b);
    });
    return places;
}

std::string Catalogue::thumbnail(const Entry& entry) const {
    if (entry.thumbnail == 0 || !database_.hasTable("resources")) return {};
    files::Statement read = database_.prepared(
        "SELECT data FROM resources WHERE kind = ?1 AND number = ?2 AND length(data) < 4000000");
    read.bind(1, std::int64_t(files::ResourceKind::Picture)).bind(2, std::int64_t(entry.thumbnail));
    return read.step() ? std::string(read.bytes(0)) : std::string();
}

std::string Catalogue::geometryOf(const Entry& entry) const {
    const auto fail = [&](const char* what) {
        throw Error(fmt::format("\"{}\" {}", entry.title, what), file_.string(), "Open the whole catalogue.");
    };
    const auto held = files::filesIn(file_, files::Terms(limits_));
    const auto about = held->find(
        {}, textOf(files::ResourceKey{std::uint32_t(files::ResourceKind::Entry), 0, entry.resource}));
    if (!about) fail("has no resources in this file");
    const nlohmann::json json = parsedJson(held->open(*about).text());
    const auto key = json.is_object() ? json.find("geometry") : json.end();
    if (!json.is_object() || key == json.end() || !key->is_string()) fail("names no geometry");
    const auto path = held->find({}, key->get<std::string>());
    if (!path) fail("names a geometry that is not in this file");
    return *path;
}

std::string bytesOf(const std::vector<Entry>& entries, const package::Package& resources) {
    const auto database = files::Database::inMemory();
    package::writeInto(database, resources);
    database.run(
        "CREATE TABLE entries(number INTEGER PRIMARY KEY, code TEXT NOT NULL, title TEXT, pack TEXT, "
        "kind TEXT, place TEXT, bone TEXT, maker TEXT, licence TEXT, permission TEXT, link TEXT, "
        "added INTEGER, thumbnail INTEGER, resource INTEGER); BEGIN");
    files::Statement row = database.prepared(
        "INSERT INTO entries VALUES(?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14)");
    for (const Entry& entry : entries) {
        row.bind(1, entry.number);
        int place = 2;
        for (const std::string* text :
             {&entry.code, &entry.title, &entry.pack, &entry.kind, &entry.place, &entry.bone, &entry.maker,
              &entry.licence, &entry.permission, &entry.link})
            row.bindText(place++, *text);
        row.bind(12, entry.added)
            .bind(13, std::int64_t(entry.thumbnail))
            .bind(14, std::int64_t(entry.resource));
        row.step();
        row.reset();
    }
    database.run("COMMIT");
    return database.serialized();
}

bool isCatalogue(const std::filesystem::path& file) {
    try {
        return files::isSqlite(file) && files::Database::reading(file, {}).hasTable("entries");
    } catch (const Error&) {
        return false;
    }
}

} // namespace zl::catalogue
