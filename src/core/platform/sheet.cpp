#include "core/platform/sheet.h"

#include "core/base/data_folder.h"
#include "core/base/error.h"
#include "core/base/pattern.h"
#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace fs = std::filesystem;

namespace zl::platform {

double RuleSpec::limit(const std::string& name, double fallback) const {
    const auto found = limits.find(name);
    return found == limits.end() ? fallback : found->second;
}

std::string SheetLevels::nameFor(const std::string& whole, int level) const {
    return filledTemplate(name.empty() ? "{name}_lod{n}" : name, {}, whole, level);
}

const Prefix* Sheet::prefixOf(std::string_view code) const {
    const Prefix* found = nullptr;
    for (const Prefix& prefix : prefixes)
        if (code.starts_with(prefix.code) && (!found || prefix.code.size() > found->code.size()))
            found = &prefix;
    return found;
}

const SheetEvidence* Sheet::evidenceOf(std::string_view wanted) const {
    for (const SheetEvidence& one : evidence)
        if (one.of == wanted) return &one;
    return nullptr;
}

const RuleSpec* Sheet::rule(std::string_view wanted) const {
    for (const RuleSpec& rule : rules)
        if (rule.id == wanted) return &rule;
    return nullptr;
}

std::vector<const RuleSpec*> Sheet::rulesOf(std::string_view check) const {
    std::vector<const RuleSpec*> out;
    for (const RuleSpec& rule : rules)
        if (rule.check == check) out.push_back(&rule);
    return out;
}

std::string Sheet::showLength(double metres) const {
    const double value = metres / metresPerUnit;
    const double size = std::abs(value);
    const std::string number = showNumber(value, size >= 100 ? 1 : size >= 1 ? 2 : 3);
    const bool isWord = unitName.size() > 3 && unitName.ends_with('s'); // one block, two blocks
    return number + "\u202f" + (number == "1" && isWord ? unitName.substr(0, unitName.size() - 1) : unitName);
}

std::string Sheet::showBoth(double metres) const {
    const double size = std::abs(metres);
    const Unit& known = unitNamed(size < 0.1 ? "mm" : size < 1 ? "cm" : "m");
    if (std::abs(known.metres - metresPerUnit) < 1e-12) return showLength(metres);
    return fmt::format("{} ({}\u202f{})", showLength(metres), showMeasure(metres / known.metres), known.id);
}

std::string Sheet::importerWords() const {
    if (importerFactor == 1) return {};
    return fmt::format("Written in {}; {} multiplies by {}", unitOfMetres(fileMetresPerUnit()).name, name,
                       showNumber(importerFactor));
}

namespace {

std::vector<fs::path> sheetFolders(const fs::path& projectFolder) {
    std::vector<fs::path> folders;
    std::error_code error;
    // Installed first; in a build tree the sources' own folder stands in for it. A packaged program may sit
    // under another prefix than the one it was configured for, so its own place is asked too.
    const fs::path program = fs::read_symlink("/proc/self/exe", error);
    const fs::path beside =
        program.empty() ? fs::path() : program.parent_path() / "../share/zest-loom/platforms";
    for (const fs::path& shipped :
         {beside, fs::path(ZEST_LOOM_SHEETS_SOURCE), fs::path(ZEST_LOOM_SHEETS_INSTALLED)})
        if (fs::is_directory(shipped, error)) {
            folders.push_back(shipped);
            break;
        }
    if (const fs::path own = dataFolder(); !own.empty()) folders.push_back(own / "platforms");
    if (!projectFolder.empty()) folders.push_back(projectFolder / "platforms");
    return folders;
}

} // namespace

std::vector<std::shared_ptr<const Sheet>>
loadSheets(const fs::path& projectFolder, std::vector<std::string>* problems, const Vocabulary& words) {
    std::vector<std::shared_ptr<const Sheet>> sheets;
    for (const fs::path& folder : sheetFolders(projectFolder)) {
        std::error_code error;
        std::vector<fs::path> files;
        for (const auto& entry : fs::directory_iterator(folder, error))
            if (entry.path().extension() == ".toml")
                files.push_back(entry.path());
            else if (fs::is_regular_file(entry.path() / "sheet.toml", error)) // came with what belongs to it
                files.push_back(entry.path() / "sheet.toml");
        std::ranges::sort(files);
        for (const fs::path& file : files) {
            try {
                auto sheet = std::make_shared<const Sheet>(readSheet(file, words));
                const auto same =
                    std::ranges::find_if(sheets, [&](const auto& s) { return s->id == sheet->id; });
                if (same != sheets.end())
                    *same = sheet;
                else
                    sheets.push_back(sheet);
            } catch (const Error& problem) {
                if (problems) problems->push_back(problem.whole());
            }
        }
    }
    return sheets;
}

std::shared_ptr<const Sheet> sheetNamed(const std::vector<std::shared_ptr<const Sheet>>& sheets,
                                        std::string_view id) {
    for (const auto& sheet : sheets)
        if (sheet->id == id) return sheet;
    const std::string all = inARow(sheets, [](const auto& sheet) -> const std::string& { return sheet->id; });
    throw Error(fmt::format("there is no platform \"{}\"", id), {},
                all.empty() ? "No platform sheets were found: install the program again, or put sheets into "
                              "a folder \"platforms\" beside the project."
                            : "Use one of " + all + ".");
}

} // namespace zl::platform
