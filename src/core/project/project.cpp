#include "core/project/project.h"

#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/project/companions.h"

#include <algorithm>
#include <set>
#include <set>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

constexpr int currentVersion = 2; // 1 had a finish and a format in place of a crossing's deliver
constexpr std::string_view formatName = "zest-loom-project";

struct PermissionWords {
    Permission permission;
    std::string_view id, name;
};
constexpr PermissionWords permissions[] = {{Permission::OwnWork, "own-work", "own work"},
                                           {Permission::Allowed, "allowed", "allowed"},
                                           {Permission::AskFirst, "ask-first", "ask first"},
                                           {Permission::NotAllowed, "not-allowed", "not allowed"}};

[[noreturn]] void fail(const std::string& what, const std::string& where, const std::string& expected) {
    throw Error(what, where, "Expected " + expected + ".");
}

std::string text(const nlohmann::json& json, const char* key, const std::string& where,
                 bool required = true) {
    if (!json.contains(key)) {
        if (!required) return {};
        fail(fmt::format("\"{}\" is missing", key), where, "a text");
    }
    if (!json[key].is_string())
        fail(fmt::format("\"{}\" is not a text", key), where, "text in quotation marks");
    return json[key].get<std::string>();
}

const nlohmann::json& list(const nlohmann::json& json, const char* key, const std::string& where) {
    static const nlohmann::json empty = nlohmann::json::array();
    if (!json.contains(key)) return empty;
    if (!json[key].is_array()) fail(fmt::format("\"{}\" is not a list", key), where, "a list");
    return json[key];
}

recipe::Recipe recipeIn(const nlohmann::json& json, const std::string& where) {
    try {
        return recipe::fromJson(list(json, "recipe", where));
    } catch (const Error& error) {
        throw Error(error.what(), where + ", " + error.where(), error.mend());
    }
}

/// A version 1 had two of the parameters of the time as texts of their own.
nlohmann::ordered_json deliveryIn(const nlohmann::json& json, const std::string& where) {
    nlohmann::ordered_json deliver = nlohmann::ordered_json::object();
    if (json.contains("deliver")) {
        if (!json["deliver"].is_object()) fail("\"deliver\" is not an object", where, "{\"name\": value}");
        deliver = json["deliver"];
    }
    for (const char* name : {"finish", "format"})
        if (const std::string value = text(json, name, where, false); !value.empty()) deliver[name] = value;
    return deliver;
}

KeptSelection keptFrom(const nlohmann::json& json, const std::string& where) {
    if (!json.is_object()) fail("a selection is not an object", where, "{\"name\": …, \"faces\": […]}");
    KeptSelection kept;
    kept.name = text(json, "name", where);
    try {
        kept.selection = selection::fromJson(list(json, "faces", where));
    } catch (const Error& error) {
        throw Error(error.what(), fmt::format("{}, selection \"{}\"", where, kept.name), error.mend());
    }
    return kept;
}

Source sourceFrom(const nlohmann::json& json, const std::string& where) {
    Source source;
    source.path = text(json, "path", where);
    if (source.path.empty()) fail("a source has an empty path", where, "a file name");
    source.author = text(json, "author", where, false);
    source.licence = text(json, "licence", where, false);
    source.link = text(json, "link", where, false);
    source.size = text(json, "size", where, false);
    const std::string permission = text(json, "permission", where, false);
    if (const auto known = permissionFrom(permission))
        source.permission = *known;
    else if (!permission.empty())
        fail(fmt::format("the permission \"{}\" is not known", permission), where,
             "own-work, allowed, ask-first or not-allowed");
    return source;
}

} // namespace

std::string_view permissionId(Permission permission) {
    return permissions[static_cast<int>(permission)].id;
}
std::optional<Permission> permissionFrom(std::string_view id) {
    for (const auto& words : permissions)
        if (id == words.id) return words.permission;
    return std::nullopt;
}
std::string_view permissionName(Permission permission) {
    return permissions[static_cast<int>(permission)].name;
}

std::vector<std::string> Piece::sizes() const {
    std::vector<std::string> out;
    for (const Source& source : sources)
        if (std::ranges::find(out, source.size) == out.end()) out.push_back(source.size);
    if (out.empty()) out.emplace_back();
    return out;
}

const Crossing* Piece::on(std::string_view platform) const {
    for (const Crossing& crossing : crossings)
        if (crossing.platform == platform) return &crossing;
    return nullptr;
}
Crossing* Piece::on(std::string_view platform) {
    return const_cast<Crossing*>(std::as_const(*this).on(platform));
}

Crossing& Piece::setUpOn(const std::string& platform) {
    if (Crossing* crossing = on(platform)) return *crossing;
    return crossings.emplace_back(Crossing{platform, {}});
}

const Piece* Project::piece(std::string_view wanted) const {
    for (const Piece& piece : pieces)
        if (piece.name == wanted) return &piece;
    return nullptr;
}

Piece* Project::piece(std::string_view wanted) {
    return const_cast<Piece*>(std::as_const(*this).piece(wanted));
}

std::string Project::freeName(const std::string& wanted) const {
    std::string name = wanted.empty() ? "Piece" : wanted;
    for (int n = 2; piece(name); ++n) name = fmt::format("{} {}", wanted, n);
    return name;
}

recipe::Recipe recipeFor(const Piece& piece, std::string_view platform) {
    recipe::Recipe out = piece.recipe;
    if (const Crossing* crossing = piece.on(platform))
        out.insert(out.end(), crossing->recipe.begin(), crossing->recipe.end());
    return out;
}

nlohmann::json deliveryFor(const Piece& piece, std::string_view platform) {
    const Crossing* crossing = piece.on(platform);
    return crossing ? nlohmann::json(crossing->deliver) : nlohmann::json::object();
}

nlohmann::ordered_json toJson(const Project& project) {
    nlohmann::ordered_json json{{"format", formatName},
                                {"version", currentVersion},
                                {"name", project.name},
                                {"platforms", project.platforms}};
    if (!project.yardsticks.empty()) {
        json["yardsticks"] = nlohmann::ordered_json::array();
        for (const YardstickSource& yardstick : project.yardsticks)
            json["yardsticks"].push_back({{"name", yardstick.name},
                                          {"path", yardstick.path.generic_string()},
                                          {"unit", yardstick.unit},
                                          {"up", yardstick.up}});
    }
    json["pieces"] = nlohmann::ordered_json::array();
    for (const Piece& piece : project.pieces) {
        nlohmann::ordered_json p{{"name", piece.name},
                                 {"sources", nlohmann::ordered_json::array()},
                                 {"recipe", recipe::toJson(piece.recipe)}};
        for (const Source& source : piece.sources) {
            p["sources"].push_back({{"path", source.path.generic_string()},
                                    {"author", source.author},
                                    {"licence", source.licence},
                                    {"permission", permissionId(source.permission)}});
            if (!source.link.empty()) p["sources"].back()["link"] = source.link;
            if (!source.size.empty()) p["sources"].back()["size"] = source.size;
        }
        for (const KeptSelection& kept : piece.selections)
            p["selections"].push_back({{"name", kept.name}, {"faces", selection::toJson(kept.selection)}});
        p["crossings"] = nlohmann::ordered_json::array();
        for (const Crossing& crossing : piece.crossings) {
            nlohmann::ordered_json c{{"platform", crossing.platform}};
            if (!crossing.deliver.empty()) c["deliver"] = crossing.deliver;
            c["recipe"] = recipe::toJson(crossing.recipe);
            p["crossings"].push_back(std::move(c));
        }
        json["pieces"].push_back(std::move(p));
    }
    return json;
}

Project fromJson(const nlohmann::json& json, const fs::path& file) {
    const std::string where = file.string();
    if (!json.is_object() || !json.contains("format") || json["format"] != formatName)
        fail("is not a Zest Loom project", where, "a *.zestloom file");
    if (!json.contains("version") || !json["version"].is_number_integer())
        fail("does not say its version", where, "\"version\": 1");
    if (const auto version = json["version"].get<long long>(); version > currentVersion)
        throw Error(fmt::format("was saved by a newer Zest Loom (project version {}, this one knows {})",
                                version, currentVersion),
                    where, "Update Zest Loom; the file was left as it is.");
    else if (version < 1)
        fail("has an impossible version", where, "\"version\": 1");
    Project project;
    project.file = file;
    project.name = text(json, "name", where);
    for (const auto& id : list(json, "platforms", where)) {
        if (!id.is_string()) fail("a platform is not a text", where, "platform ids");
        if (std::ranges::find(project.platforms, id.get<std::string>()) == project.platforms.end())
            project.platforms.push_back(id.get<std::string>());
    }
    for (const auto& y : list(json, "yardsticks", where)) {
        if (!y.is_object()) fail("a yardstick is not an object", where, "{\"name\": …}");
        YardstickSource yardstick{text(y, "name", where), text(y, "path", where),
                                  text(y, "unit", where, false), text(y, "up", where, false)};
        try {
            if (!yardstick.unit.empty()) unitNamed(yardstick.unit);
            if (!yardstick.up.empty()) upNamed(yardstick.up);
        } catch (const Error& error) {
            throw Error(error.what(), fmt::format("{}, yardstick \"{}\"", where, yardstick.name),
                        error.mend());
        }
        project.yardsticks.push_back(std::move(yardstick));
    }
    for (const auto& p : list(json, "pieces", where)) {
        if (!p.is_object()) fail("a piece is not an object", where, "{\"name\": …}");
        Piece piece;
        piece.name = text(p, "name", where);
        const std::string here = fmt::format("{}, piece \"{}\"", where, piece.name);
        if (project.piece(piece.name))
            fail("two pieces have the same name", here, "a name of its own for each piece");
        for (const auto& s : list(p, "sources", here)) piece.sources.push_back(sourceFrom(s, here));
        piece.recipe = recipeIn(p, here);
        for (const auto& s : list(p, "selections", here)) piece.selections.push_back(keptFrom(s, here));
        for (const auto& c : list(p, "crossings", here)) {
            Crossing crossing;
            crossing.platform = text(c, "platform", here);
            crossing.deliver = deliveryIn(c, here + ", " + crossing.platform);
            crossing.recipe = recipeIn(c, here + ", " + crossing.platform);
            if (piece.on(crossing.platform))
                fail(fmt::format("\"{}\" stands there twice", crossing.platform), here,
                     "one crossing a platform");
            piece.crossings.push_back(std::move(crossing));
        }
        project.pieces.push_back(std::move(piece));
    }
    return project;
}

namespace {

std::string restoring(const fs::path& file) {
    std::error_code error;
    return fs::exists(backupPath(file), error)
               ? fmt::format("The version before it is in \"{}\".", backupPath(file).filename().string())
               : "Restore it from a copy.";
}

nlohmann::json parsed(const std::string& content, const fs::path& file) {
    std::string fault;
    nlohmann::json json = parsedJson(content, &fault);
    if (json.is_discarded())
        throw Error("is not a project that can be read: its JSON " + fault, file.string(), restoring(file));
    return json;
}

} // namespace

Project load(const fs::path& file) {
    const std::string content = readText(file);
    const nlohmann::json json = parsed(content, file);
    // The content may come from an autosave, but the project's place decides what relative paths mean.
    fs::path place = file;
    if (place.extension() == ".autosave") place.replace_extension();
    return fromJson(json, fs::absolute(place));
}

void save(const Project& project) {
    writeFile(project.file, jsonText(toJson(project), 2) + "\n", backupPath(project.file));
}

fs::path backupPath(const fs::path& file) {
    return fs::path(file.string() + ".before");
}

std::string creditOf(const Piece& piece) {
    std::string credit;
    std::set<std::string> named; // several files by one maker are one part
    for (const Source& source : piece.sources) {
        std::string part =
            fmt::format("{} by {}", piece.name, source.author.empty() ? "an unnamed author" : source.author);
        if (!source.link.empty()) part += fmt::format(" ({})", source.link);
        if (!source.licence.empty()) part += ", " + source.licence;
        if (source.permission == Permission::AskFirst) part += " (permission not yet asked)";
        if (source.permission == Permission::NotAllowed) part += " (publishing is not allowed)";
        if (named.insert(part).second) credit += (credit.empty() ? "" : "; ") + part;
    }
    return credit;
}

std::string creditOf(const Project& project, const Piece& piece, std::string_view platform) {
    std::string credit = creditOf(piece);
    for (const Piece* used : namedInputs(project, piece, platform).pieces)
        if (used != &piece && std::ranges::any_of(used->sources, [](const Source& source) {
                return source.permission != Permission::OwnWork;
            }))
            credit += (credit.empty() ? "made with " : "; made with ") + creditOf(*used);
    return credit;
}

std::vector<std::string> permissionWarnings(const Piece& piece) {
    std::vector<std::string> warnings;
    for (const Source& source : piece.sources) {
        if (source.permission == Permission::AskFirst)
            warnings.push_back(fmt::format("{}: ask {} before you publish this",
                                           source.path.filename().string(),
                                           source.author.empty() ? "its author" : source.author));
        if (source.permission == Permission::NotAllowed)
            warnings.push_back(fmt::format("{}: publishing is not allowed; use it for yourself only",
                                           source.path.filename().string()));
    }
    return warnings;
}

} // namespace zl::project
