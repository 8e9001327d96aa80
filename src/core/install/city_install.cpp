#include "core/install/city_install.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/base/words.h"
#include "core/formats/city_files.h"
#include "core/install/city_edits.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace zl::install {

namespace {

using Addition = Journal::Addition;

/// As short as it can be written, to a hundredth of a millimetre or of a turn's thousandth.
std::string decimals(double value) {
    std::string out = fmt::format("{:.6f}", value + 0.0);
    out.erase(out.find_last_not_of('0') + 1);
    if (out.back() == '.') out.pop_back();
    return out == "-0" ? "0" : out;
}

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
        for (const auto& [column, value] : cells)
            if (column != "district" && !value.empty() && table.column(column) < 0)
                return game_.say(fmt::format("{} has no column \"{}\"", path, column));
        const std::string line = csvLine(table, cells);
        const std::size_t number = std::size_t(std::ranges::count(*text, '\n')) + (table.endsLine ? 1 : 2);
        *text += csvAddition(table, line);
        if (readCsv(*text).rows.size() != table.rows.size() + 1) // a quote that nobody closed swallows it
            return game_.say(fmt::format("{} does not end where a line may be added{}", path,
                                         table.problems.empty() ? "" : ": " + table.problems.front()));
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

void intoCity(GameFolder& game, const CityObject& object, const Wishes& wishes) {
    const City city = readCity(game.path());
    const auto before = readJournal(game.path(), object.name);
    Edits edits(game);
    if (before) takeOutOf(game, edits, *before, wishes);
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
    const auto hashes = edits.give();
    for (const std::string& path : touched)
        if (hashes.contains(path)) journal.files[path] = hashes.at(path);
    for (OutFile& file : kept) game.writeOwn(std::move(file));
    if (before)
        for (const auto& [path, hash] : before->originals)
            if (!journal.originals.contains(path)) game.leaveOwn(keptPath(object.name, path));
    game.writeOwn(journalFile(journal));
}

} // namespace zl::install
