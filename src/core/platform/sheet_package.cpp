#include "core/platform/sheet_package.h"

#include "core/base/archive.h"
#include "core/base/error.h"
#include "core/base/passing_folder.h"
#include "core/base/units.h"
#include "core/base/words.h"
#include "core/files/files.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace fs = std::filesystem;

namespace zl::platform {

namespace {

constexpr std::size_t mostFiles = 2'000;
constexpr std::uint64_t mostBytes = 512u << 20;

std::string limitWords(const RuleSpec& rule) {
    std::vector<std::string> words;
    for (const auto& [name, value] : rule.limits)
        words.push_back(fmt::format("{} {}", name, showNumber(value)));
    for (const auto& [name, value] : rule.texts) words.push_back(fmt::format("{} \"{}\"", name, value));
    words.emplace_back(rule.severity == Severity::Must ? "must" : "should");
    return inARow(words);
}

} // namespace

std::string packedSheet(const Sheet& sheet, const std::vector<OutFile>& others) {
    std::vector<OutFile> files{{"sheet.toml", readText(sheet.file)}};
    std::set<std::string> taken{"sheet.toml"};
    for (const std::string& path : sheet.files.beside)
        if (taken.insert(path).second) files.push_back({path, readText(sheet.file.parent_path() / path)});
    for (const OutFile& other : others)
        if (taken.insert(other.name).second) files.push_back(other);
    return zipped(files);
}

std::vector<OutFile> unpackedSheet(const fs::path& package) {
    const auto held = files::filesIn(package);
    std::vector<OutFile> out;
    std::uint64_t bytes = 0;
    if (!held->passedOver().empty())
        throw Error(fmt::format("holds \"{}\", which leads out of it", held->passedOver().front().path),
                    package.string(), "Take it from whoever made it anew.");
    for (const auto& entry : held->list()) {
        bytes += entry.bytes;
        if (out.size() >= mostFiles || bytes > mostBytes)
            throw Error("holds more than a sheet needs", package.string(),
                        "Take it from whoever made it anew.");
        out.push_back({entry.path, std::string(held->open(entry.path).text())});
    }
    if (std::ranges::find(out, "sheet.toml", &OutFile::name) == out.end())
        throw Error("holds no sheet", package.string(), "Choose a file that was exported from Platforms.");
    return out;
}

Sheet sheetIn(const std::vector<OutFile>& files, const Vocabulary& words) {
    // It names templates that lie beside it: all of them lie somewhere for a moment.
    const PassingFolder folder("sheet");
    if (folder.path().empty())
        throw Error("no passing folder can be made", fs::temp_directory_path().string());
    writeAllOrNone(folder.path(), files);
    return readSheet(folder.path() / "sheet.toml", words);
}

fs::path takeSheet(const std::vector<OutFile>& files, const fs::path& platforms, const Vocabulary& words) {
    // Read before it lies there, so that what cannot be read changes nothing.
    const fs::path own = platforms / sheetIn(files, words).id;
    std::vector<std::string> leaving;
    std::error_code ignored;
    if (fs::is_directory(own, ignored))
        for (const auto& entry : fs::recursive_directory_iterator(own, ignored))
            if (entry.is_regular_file(ignored)) {
                const std::string name = entry.path().lexically_relative(own).generic_string();
                if (std::ranges::find(files, name, &OutFile::name) == files.end()) leaving.push_back(name);
            }
    writeAllOrNone(own, files, leaving);
    // One that was changed here lies as a single file: its place is taken.
    fs::remove(platforms / (own.filename().string() + ".toml"), ignored);
    return own / "sheet.toml";
}

std::vector<std::string> differencesOf(const Sheet& before, const Sheet& after) {
    std::vector<std::string> out;
    const auto say = [&out](const std::string& what, const std::string& a, const std::string& b) {
        if (a != b)
            out.push_back(fmt::format("{}: {} → {}", what, a.empty() ? "none" : a, b.empty() ? "none" : b));
    };
    say("Name", before.name, after.name);
    say("Unit", fmt::format("{} ({} m)", before.unitName, before.metresPerUnit),
        fmt::format("{} ({} m)", after.unitName, after.metresPerUnit));
    say("Up", std::string(upName(before.up)), std::string(upName(after.up)));
    say("Front", before.front, after.front);
    say("Figure", showNumber(before.figureHeight, 3), showNumber(after.figureHeight, 3));
    for (const RuleSpec& rule : before.rules)
        if (const RuleSpec* now = after.rule(rule.id))
            say(now->label, limitWords(rule), limitWords(*now));
        else
            out.push_back(fmt::format("{} is no longer asked", rule.label));
    for (const RuleSpec& rule : after.rules)
        if (!before.rule(rule.id)) out.push_back(fmt::format("{} is new: {}", rule.label, limitWords(rule)));
    say("Delivered as", before.deliverable, after.deliverable);
    if (before.deliverable == after.deliverable && before.files.said() != after.files.said())
        out.emplace_back("The files that are delivered are others");
    const auto pictures = [](const Sheet& sheet) {
        std::vector<std::string> words;
        for (const SheetPicture& picture : sheet.surface.pictures) words.push_back(picture.name);
        return inARow(words);
    };
    say("Pictures", pictures(before), pictures(after));
    return out;
}

} // namespace zl::platform
