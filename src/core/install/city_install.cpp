#include "core/install/city_install.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/words.h"
#include "core/formats/city_files.h"
#include "core/install/zip_records.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

using Addition = Journal::Addition;

/// Where a file as it was before an installation is kept, relative to the game's folder.
std::string keptPath(const std::string& name, const std::string& path) {
    return (fs::path(journalPath(name)).parent_path() / (name + ".before") / path).generic_string();
}

/// As short as it can be written, to a hundredth of a millimetre or of a turn's thousandth.
std::string decimals(double value) {
    std::string out = fmt::format("{:.6f}", value + 0.0);
    out.erase(out.find_last_not_of('0') + 1);
    if (out.back() == '.') out.pop_back();
    return out == "-0" ? "0" : out;
}

/// Files of the game as they are and as they are to be.
class Edits {
public:
    explicit Edits(GameFolder& game) : game_(game) {}

    /// The text of a table as it is to be; the problem is said and it is null when it cannot be read.
    std::string* text(const std::string& path) {
        const auto [entry, fresh] = files_.try_emplace(path);
        File& file = entry->second;
        if (fresh) {
            try {
                if (game_.hashAt(path)) file.before = game_.bytesAt(path);
                file.now = file.before.value_or("");
            } catch (const Error& fault) {
                file.isBroken = true;
                game_.say(fault.sentence());
            }
        }
        return file.isBroken ? nullptr : &file.now;
    }
    /// The same for an archive, as the records that it is made of.
    ZipRecords* archive(const std::string& path) {
        std::string* bytes = text(path);
        if (!bytes) return nullptr;
        File& file = files_.at(path);
        if (!file.archive) {
            try {
                file.archive.emplace(*bytes, (game_.path() / path).string());
            } catch (const Error& fault) {
                file.isBroken = true;
                game_.say(fault.sentence());
                return nullptr;
            }
        }
        return &*file.archive;
    }
    bool isThere(const std::string& path) { return text(path) && files_.at(path).before.has_value(); }
    void replace(const std::string& path, std::string bytes) {
        if (!text(path)) return;
        files_.at(path).now = std::move(bytes), files_.at(path).archive.reset();
    }
    void note(const std::string& path, std::string detail) {
        files_.at(path).details.push_back(std::move(detail));
    }
    /// From now on what stands is what was before.
    void settle() {
        for (auto& [path, file] : files_) {
            if (file.isBroken) continue;
            file.settled = file.goes ? std::nullopt : std::optional(bytesOf(file));
            file.isSettled = true;
        }
    }
    /// A file as it was before anything was put in; nothing where there was none.
    std::optional<std::string> original(const std::string& path) const {
        const auto found = files_.find(path);
        if (found == files_.end()) return std::nullopt;
        return found->second.isSettled ? found->second.settled : found->second.before;
    }

    /// Hands the changed ones to the game's folder; what is empty and was not there before goes.
    void give(std::map<std::string, Hash>* hashes) {
        for (auto& [path, file] : files_) {
            if (file.isBroken) continue;
            std::string bytes = bytesOf(file);
            if (hashes) (*hashes)[path] = hashText(bytes);
            if (file.goes)
                game_.leave(path);
            else if (!file.before || bytes != *file.before)
                game_.write(path, std::move(bytes),
                            file.before ? Change::Kind::Extended : Change::Kind::Added, file.details);
        }
    }
    /// It goes, unless something is put into it again.
    void drop(const std::string& path) {
        File& file = files_.at(path);
        file.goes = true, file.now.clear(), file.archive.reset();
    }
    void keep(const std::string& path) { files_.at(path).goes = false; }

private:
    struct File {
        std::optional<std::string> before, settled;
        std::string now;
        std::optional<ZipRecords> archive;
        std::vector<std::string> details;
        bool isBroken = false, goes = false, isSettled = false;
    };
    static std::string bytesOf(const File& file) { return file.archive ? file.archive->bytes() : file.now; }

    GameFolder& game_;
    std::map<std::string, File> files_;
};

/// Takes what a journal added out of the files. Those that are as they were left become what they were
/// before.
class TakingOut {
public:
    TakingOut(GameFolder& game, Edits& edits, const Journal& journal, const Wishes& wishes)
        : game_(game), edits_(edits), journal_(journal), wishes_(wishes) {}

    void run() {
        for (const auto& [path, hash] : journal_.files) {
            if (!edits_.text(path)) continue;
            const bool was = journal_.originals.contains(path);
            if (game_.hashAt(path) == hash && (!was || putBack(path))) {
                whole_.insert(path);
                if (!was) edits_.drop(path);
            }
        }
        for (auto one = journal_.additions.rbegin(); one != journal_.additions.rend(); ++one)
            if (!whole_.contains(one->path) && edits_.text(one->path)) takeOut(*one);
        if (!changed_.empty())
            game_.plan().notes.push_back(
                fmt::format("{} changed by others since; only what was added goes",
                            changed_.size() == 1 ? *changed_.begin() + " was"
                                                 : showNames({changed_.begin(), changed_.end()}) + " were"));
    }

private:
    bool putBack(const std::string& path) {
        const std::string kept = keptPath(journal_.name, path);
        if (game_.hashAt(kept) != journal_.originals.at(path)) return false;
        edits_.replace(path, game_.bytesAt(kept));
        for (const Addition& one : journal_.additions)
            if (one.path == path)
                edits_.note(path, one.kind == Addition::Kind::Line ? "without " + one.text
                                                                   : "without " + one.entry);
        return true;
    }
    void takeOut(const Addition& one) {
        changed_.insert(one.path);
        bool out = false;
        if (one.kind == Addition::Kind::Line) {
            std::string& text = *edits_.text(one.path);
            if (auto without = withoutLine(text, one.text)) text = std::move(*without), out = true;
            if (out) edits_.note(one.path, "without " + one.text);
        } else if (ZipRecords* archive = edits_.archive(one.path); archive && archive->has(one.entry)) {
            out = one.kind == Addition::Kind::Entry ? removed(*archive, one) : cut(*archive, one);
            if (out) edits_.note(one.path, "without " + one.entry);
        }
        if (!out && !wishes_.losesChanges)
            game_.say(fmt::format("{} has not what was put there any more ({}); somebody has changed it",
                                  one.path, one.kind == Addition::Kind::Line ? one.text : one.entry));
    }
    static bool removed(ZipRecords& archive, const Addition& one) {
        archive.remove(one.entry);
        return true;
    }
    /// A body out of somebody's collision file, which becomes what it was where nobody else touched it.
    bool cut(ZipRecords& archive, const Addition& one) {
        std::string content = archive.contentOf(one.entry, mostContactBytes);
        const std::size_t at = content.find(one.text);
        if (at == std::string::npos) return false;
        content.erase(at, one.text.size());
        const std::string kept = keptPath(journal_.name, one.path);
        if (game_.hashAt(kept)) {
            const ZipRecords before(game_.bytesAt(kept), kept);
            if (before.has(one.entry) && before.contentOf(one.entry, mostContactBytes) == content) {
                archive.takeOver(before, one.entry);
                return true;
            }
        }
        archive.replace({one.entry, content});
        return true;
    }

    GameFolder& game_;
    Edits& edits_;
    const Journal& journal_;
    const Wishes& wishes_;
    std::set<std::string> whole_, changed_;
};

/// Puts an object into the files.
class PuttingIn {
public:
    PuttingIn(GameFolder& game, Edits& edits, const City& city, const CityObject& object, Journal& journal,
              const Wishes& wishes)
        : game_(game), edits_(edits), city_(city), object_(object), journal_(journal), wishes_(wishes) {}

    /// `ours`: what the city has of it is an earlier installation.
    void run(bool ours) {
        refuseTaken(ours);
        putEntries();
        putDefinition();
        for (const CityPlace& place : object_.places) putPlace(place);
        if (object_.places.empty())
            game_.plan().notes.emplace_back("It stands nowhere yet: it has no place on the map");
    }

private:
    void refuseTaken(bool ours) {
        const auto& definition = object_.definition;
        for (const Definition& known : city_.definitions) {
            const bool own = ours && known.name == object_.name;
            if (own) continue;
            if (known.name == object_.name)
                game_.say(fmt::format("The city has a \"{}\" already: {}, line {}", known.name,
                                      cityDefinitions, known.line));
            else if (lowerCase(known.name) == lowerCase(object_.name))
                game_.say(
                    fmt::format("The city has a \"{}\", which differs in its capitals alone", known.name));
            if (known.number == definition.number && known.name != object_.name)
                game_.say(fmt::format("{} is the number of \"{}\" already", definition.number, known.name));
        }
        if (definition.number <= 0) game_.say("It has no number yet");
    }

    void putEntries() {
        const std::string path(cityArchive);
        if (!edits_.isThere(path)) return game_.say(fmt::format("{} is missing", path));
        ZipRecords* archive = edits_.archive(path);
        if (!archive) return;
        std::vector<OutFile> fresh;
        std::vector<std::string> names;
        for (const OutFile& entry : object_.entries) {
            if (entry.name.ends_with(".contact") && !needsOwnFile(*archive, entry)) continue;
            if (archive->has(entry.name)) {
                game_.say(fmt::format("{} has a \"{}\" already", path, entry.name));
                continue;
            }
            fresh.push_back(entry), names.push_back(entry.name);
            journal_.additions.push_back({Addition::Kind::Entry, path, entry.name, {}});
        }
        archive->add(fresh);
        if (!names.empty())
            edits_.note(path, fmt::format("{}: {}", showCount(long(names.size()), "entry", "entries"),
                                          showNames(names)));
    }

    /// Whether the body gets a file of its own; it is put into another's where that is wished, and more than
    /// the city holds are refused.
    bool needsOwnFile(ZipRecords& archive, const OutFile& contact) {
        std::vector<std::string> others, told;
        for (const CollisionFile& file : city_.collisionFiles) {
            if (!archive.has(file.name)) continue; // our own, taken out a moment ago
            others.push_back(file.name);
            told.push_back(file.by.empty() ? file.name : fmt::format("{} by {}", file.name, file.by));
        }
        if (wishes_.mergeInto.empty()) {
            if (object_.collisionLimit == 0 || int(others.size()) < object_.collisionLimit) return true;
            game_.say(fmt::format(
                "{} of {} collision files are in use, everybody's together: {}; put it into one of them",
                others.size(), object_.collisionLimit, showNames(told)));
            game_.plan().mergeInto = others;
            return false;
        }
        if (std::ranges::find(others, wishes_.mergeInto) == others.end()) {
            game_.say(fmt::format("There is no collision file \"{}\"; there are {}", wishes_.mergeInto,
                                  others.empty() ? "none" : showNames(others)));
            return false;
        }
        try {
            std::string content = archive.contentOf(wishes_.mergeInto, mostContactBytes);
            const auto file = formats::readContactFile(content, wishes_.mergeInto);
            if (std::ranges::find(file.bodies, object_.name, &formats::ContactBody::name) !=
                file.bodies.end()) {
                game_.say(fmt::format("{} has a body of \"{}\" already", wishes_.mergeInto, object_.name));
                return false;
            }
            std::string added;
            for (const auto& body : formats::readContactFile(contact.bytes, contact.name).bodies)
                added += formats::writeContactBody(body);
            if (!content.ends_with('\n')) added = "\n" + added;
            archive.replace({wishes_.mergeInto, content + added});
            journal_.additions.push_back(
                {Addition::Kind::Body, std::string(cityArchive), wishes_.mergeInto, added});
            edits_.note(std::string(cityArchive), fmt::format("its body into {}{}", wishes_.mergeInto,
                                                              file.by.empty() ? "" : ", by " + file.by));
        } catch (const Error& fault) {
            game_.say(fault.sentence());
        }
        return false;
    }

    /// Adds a line to a table, which is made where it is not there yet.
    void putLine(const std::string& path, const char* head,
                 const std::vector<std::pair<std::string_view, std::string>>& cells) {
        std::string* text = edits_.text(path);
        if (!text) return;
        edits_.keep(path);
        if (text->empty()) *text = std::string(head) + "\n";
        const CsvTable table = readCsv(*text);
        for (const char* column : {"name"})
            if (table.column(column) < 0)
                return game_.say(fmt::format("{} has no column \"{}\"", path, column));
        const std::string line = csvLine(table, cells);
        const std::size_t number = std::size_t(std::ranges::count(*text, '\n')) + (table.endsLine ? 1 : 2);
        *text += csvAddition(table, line);
        journal_.additions.push_back({Addition::Kind::Line, path, {}, line});
        edits_.note(path, fmt::format("line {}: {}", number, line));
        makeWritable(path);
    }
    void makeWritable(const std::string& path) {
        if (!wishes_.makeWritable || !game_.isReadOnly(game_.path() / path)) return;
        game_.makeWritable(path);
        if (std::ranges::find(journal_.madeWritable, path) == journal_.madeWritable.end())
            journal_.madeWritable.push_back(path);
    }

    void putDefinition() {
        const Definition& d = object_.definition;
        if (!edits_.isThere(std::string(cityDefinitions)))
            return game_.say(fmt::format("{} is missing", cityDefinitions));
        std::string traits;
        for (const std::string& trait : d.traits) traits += (traits.empty() ? "" : " ") + trait;
        putLine(std::string(cityDefinitions), "name,number,pictures,view,traits",
                {{"name", d.name},
                 {"number", std::to_string(d.number)},
                 {"pictures", d.pictures},
                 {"view", decimals(d.viewDistance)},
                 {"traits", traits}});
    }

    void putPlace(const CityPlace& place) {
        std::string district = place.district;
        if (district.empty()) {
            const District* in = city_.districtAt({place.at.x, place.at.y});
            if (!in && !city_.districts.empty())
                return game_.say(fmt::format("At {}, {} there is no district", decimals(place.at.x),
                                             decimals(place.at.y)));
            if (in) district = in->name;
        } else if (!city_.districts.empty() &&
                   std::ranges::find(city_.districts, district, &District::name) == city_.districts.end()) {
            std::vector<std::string> known;
            for (const District& one : city_.districts) known.push_back(one.name);
            return game_.say(
                fmt::format("There is no district \"{}\"; there are {}", district, showNames(known)));
        }
        if (fileNameFrom(district) != district && !district.empty())
            return game_.say(fmt::format("\"{}\" is no name for a district", district));
        putLine(placementFileOf(district), "name,x,y,z,qx,qy,qz,qw",
                {{"name", place.name},
                 {"x", decimals(place.at.x)},
                 {"y", decimals(place.at.y)},
                 {"z", decimals(place.at.z)},
                 {"qx", decimals(place.turn.x)},
                 {"qy", decimals(place.turn.y)},
                 {"qz", decimals(place.turn.z)},
                 {"qw", decimals(place.turn.w)},
                 {"district", district}});
    }

    GameFolder& game_;
    Edits& edits_;
    const City& city_;
    const CityObject& object_;
    Journal& journal_;
    const Wishes& wishes_;
};

} // namespace

bool CityObject::hasBody() const {
    return std::ranges::any_of(entries,
                               [](const OutFile& entry) { return entry.name.ends_with(".contact"); });
}

std::optional<CityObject> cityDelivery(const fs::path& folder) {
    std::optional<fs::path> about;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder, error)) {
        if (!entry.path().filename().string().ends_with(".object.json")) continue;
        if (about) throw Error("holds two deliveries", folder.string(), "Give each a folder of its own.");
        about = entry.path();
    }
    if (!about) return std::nullopt;
    const auto refuse = [&](const std::string& why, const fs::path& where) {
        throw Error(why, where.string(), "Build the piece again.");
    };
    const auto json = parsedJson(readText(*about));
    if (!json.is_object() || json.value("format", nlohmann::json()) != cityFormat || !json.contains("name") ||
        !json["name"].is_string())
        refuse("describes no delivery", *about);
    CityObject out;
    out.name = json["name"];
    out.by = json.value("credit", nlohmann::json()).is_string() ? json["credit"].get<std::string>() : "";
    out.collisionLimit = json.value("collisionFiles", nlohmann::json()).is_number_integer()
                             ? std::max(0, json["collisionFiles"].get<int>())
                             : 0;
    if (fileNameFrom(out.name) != out.name)
        refuse(fmt::format("\"{}\" is no name for an object", out.name), *about);
    const City own = readCity(folder);
    if (own.definitions.size() != 1 || own.definitions[0].name != out.name)
        refuse("does not define the object alone", folder / cityDefinitions);
    out.definition = own.definitions[0];
    out.places = own.places;
    for (const CityPlace& place : out.places)
        if (place.name != out.name) refuse(fmt::format("places \"{}\"", place.name), folder / place.file);
    const ZipRecords archive(readText(folder / cityArchive, mostGameBytes), (folder / cityArchive).string());
    for (const std::string& name : archive.names()) {
        if (!name.starts_with(out.name + "."))
            refuse(fmt::format("holds \"{}\"", name), folder / cityArchive);
        out.entries.push_back({name, archive.contentOf(name, mostGameBytes)});
    }
    return out;
}

void intoCity(GameFolder& game, const CityObject& object, const Wishes& wishes) {
    const City city = readCity(game.path());
    const auto before = readJournal(game.path(), object.name);
    Edits edits(game);
    if (before) TakingOut(game, edits, *before, wishes).run();
    Journal journal;
    journal.name = object.name, journal.format = cityFormat;
    if (before) journal.madeWritable = before->madeWritable;
    edits.settle();
    PuttingIn(game, edits, city, object, journal, wishes).run(before.has_value());
    std::set<std::string> touched;
    for (const Addition& one : journal.additions) touched.insert(one.path);
    std::vector<OutFile> kept;
    for (const std::string& path : touched) {
        const auto was = edits.original(path);
        if (!was) continue; // made by this installation
        journal.originals[path] = hashText(*was);
        kept.push_back({keptPath(object.name, path), *was});
    }
    std::map<std::string, Hash> all;
    edits.give(&all);
    for (const std::string& path : touched) journal.files[path] = all[path];
    for (OutFile& file : kept) game.writeOwn(std::move(file));
    if (before)
        for (const auto& [path, hash] : before->originals)
            if (!journal.originals.contains(path)) game.leaveOwn(keptPath(object.name, path));
    game.writeOwn(journalFile(journal));
}

void outOfCity(GameFolder& game, const Journal& journal, const Wishes& wishes) {
    Edits edits(game);
    for (const std::string& path : journal.madeWritable) game.makeReadOnly(path);
    TakingOut(game, edits, journal, wishes).run();
    edits.give(nullptr);
    for (const auto& [path, hash] : journal.originals) game.leaveOwn(keptPath(journal.name, path));
}

} // namespace zl::install
