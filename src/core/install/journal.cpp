#include "core/install/journal.h"

#include "core/base/error.h"
#include "core/base/json_text.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <charconv>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

constexpr const char* folderOfJournals = "zest-loom-installed";

nlohmann::ordered_json hashesOf(const std::map<std::string, Hash>& files) {
    auto out = nlohmann::ordered_json::object();
    for (const auto& [path, hash] : files) out[path] = fmt::format("{:016x}", hash);
    return out;
}

/// Whether a path stays below the folder that it is relative to.
bool staysInside(const std::string& path) {
    const fs::path plain = fs::path(path).lexically_normal();
    return !path.empty() && plain.is_relative() && plain == fs::path(path) && plain.has_filename() &&
           *plain.begin() != "..";
}

constexpr std::string_view additionKinds[] = {"line", "entry", "body", "row"};

nlohmann::ordered_json additionsOf(const Journal& journal) {
    auto out = nlohmann::ordered_json::array();
    for (const Journal::Addition& one : journal.additions)
        out.push_back({{"kind", additionKinds[std::size_t(one.kind)]},
                       {"path", one.path},
                       {"entry", one.entry},
                       {"text", one.text},
                       {"before", one.before}});
    return out;
}

std::vector<Journal::Addition> readAdditions(const nlohmann::json& json) {
    std::vector<Journal::Addition> out;
    for (const auto& one : json) {
        const std::string kind = one.at("kind");
        const auto known = std::ranges::find(additionKinds, kind);
        if (known == std::end(additionKinds) || !staysInside(one.at("path")))
            throw Error("an addition is none of its own", "additions");
        out.push_back({Journal::Addition::Kind(known - std::begin(additionKinds)), one.at("path"),
                       one.at("entry"), one.at("text"), one.value("before", std::string())});
    }
    return out;
}

nlohmann::ordered_json tablesOf(const Journal& journal) {
    auto out = nlohmann::ordered_json::object();
    for (const auto& [path, table] : journal.tables)
        out[path] = {{"form", table.form},
                     {"under", table.under},
                     {"key", table.key},
                     {"after", fmt::format("{:016x}", table.after)},
                     {"made", table.made}};
    return out;
}

/// Throws Error naming `where` for what is no hash, or of no file below the folder.
Hash readHash(const std::string& path, const std::string& text, const std::string& where) {
    Hash hash = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), hash, 16);
    if (!staysInside(path) || error != std::errc() || end != text.data() + text.size())
        throw Error(fmt::format("\"{}\" is none of its files", path), where);
    return hash;
}

std::map<std::string, Journal::Table> readTables(const nlohmann::json& json) {
    std::map<std::string, Journal::Table> out;
    for (const auto& [path, table] : json.items()) {
        const Journal::Table read{table.at("form"), table.at("under"), table.at("key"),
                                  readHash(path, table.at("after"), "tables"), table.at("made")};
        if (read.key.empty() || std::ranges::count(Journal::tableForms, read.form) == 0)
            throw Error(fmt::format("nothing says how \"{}\" is written", path), "tables");
        out[path] = read;
    }
    return out;
}

std::map<std::string, Hash> readHashes(const nlohmann::json& json, const std::string& key) {
    std::map<std::string, Hash> out;
    for (const auto& [path, value] : json.at(key).items()) out[path] = readHash(path, value, key);
    return out;
}

} // namespace

std::string journalPath(const std::string& name) {
    return fmt::format("{}/{}.json", folderOfJournals, name);
}

std::string keptPath(const std::string& name, const std::string& path) {
    return (fs::path(journalPath(name)).parent_path() / (name + ".before") / path).generic_string();
}

OutFile journalFile(const Journal& journal) {
    const nlohmann::ordered_json json{{"format", "installed"},
                                      {"version", 1},
                                      {"name", journal.name},
                                      {"delivery", journal.format},
                                      {"kept-as", journal.keptAs},
                                      {"files", hashesOf(journal.files)},
                                      {"originals", hashesOf(journal.originals)},
                                      {"kept", hashesOf(journal.kept)},
                                      {"additions", additionsOf(journal)},
                                      {"tables", tablesOf(journal)},
                                      {"made-writable", journal.madeWritable}};
    return {journalPath(journal.name), jsonText(json, 2) + "\n"};
}

std::optional<Journal> readJournal(const fs::path& game, const std::string& name) {
    const fs::path file = game / journalPath(name);
    std::error_code error;
    if (fileNameFrom(name) != name || !fs::is_regular_file(file, error)) return std::nullopt;
    std::string fault;
    const auto json = parsedJson(readText(file), &fault);
    try {
        if (json.is_discarded()) throw Error(fault);
        if (json.at("format") != "installed" || json.at("version") != 1) throw Error("is of another version");
        Journal journal{json.at("name"),           json.at("delivery"),           json.at("kept-as"),
                        readHashes(json, "files"), readHashes(json, "originals"), readHashes(json, "kept")};
        if (json.contains("additions")) journal.additions = readAdditions(json["additions"]);
        if (json.contains("tables")) journal.tables = readTables(json["tables"]);
        for (const Journal::Addition& one : journal.additions)
            if (one.kind == Journal::Addition::Kind::Row && !journal.tables.contains(one.path))
                throw Error(fmt::format("nothing says how \"{}\" is written", one.path));
        if (json.contains("made-writable")) journal.madeWritable = json["made-writable"];
        for (const std::string& path : journal.madeWritable)
            if (!staysInside(path)) throw Error(fmt::format("\"{}\" is none of its files", path));
        if (journal.name != name) throw Error("is called otherwise");
        return journal;
    } catch (const nlohmann::json::exception&) {
        throw Error("is no record of an installation", file.string(), "Take the files out by hand.");
    } catch (const Error& problem) {
        throw Error(std::string("is no record of an installation: ") + problem.what(), file.string(),
                    "Take the files out by hand.");
    }
}

std::vector<Journal> readJournals(const fs::path& game) {
    std::vector<Journal> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(game / folderOfJournals, error)) {
        if (entry.path().extension() != ".json") continue;
        try {
            if (auto journal = readJournal(game, entry.path().stem().string()))
                out.push_back(std::move(*journal));
        } catch (const Error&) {
            // A broken one cannot be undone; asking for it by name says why.
        }
    }
    std::ranges::sort(out, {}, &Journal::name);
    return out;
}

} // namespace zl::install
