#include "core/project/used_sheets.h"

#include "core/base/error.h"
#include "core/platform/own_sheet.h"
#include "core/platform/sheet_package.h"

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

/// Where a sheet is kept as it was used.
fs::path usedPath(const Project& project, const std::string& sheet) {
    return project.folder() / "sheets-used" / (sheet + std::string(platform::sheetPackageEnding));
}

bool isUsed(const Project& project, const std::string& sheet) {
    return std::ranges::any_of(project.pieces,
                               [&](const Piece& piece) { return piece.on(sheet) != nullptr; });
}

} // namespace

void keepUsedSheets(const Project& project, const std::vector<SheetPointer>& sheets,
                    const std::vector<std::string>& except) {
    if (project.file.empty()) return;
    for (const SheetPointer& sheet : sheets) {
        if (!isUsed(project, sheet->id) || std::ranges::find(except, sheet->id) != except.end()) continue;
        const fs::path path = usedPath(project, sheet->id);
        const std::string bytes = platform::packedSheet(*sheet, {});
        std::error_code ignored;
        if (fs::is_regular_file(path, ignored) && readText(path) == bytes) continue;
        fs::create_directories(path.parent_path());
        writeFile(path, bytes);
    }
}

std::vector<ChangedSheet> changedSheets(const Project& project, const std::vector<SheetPointer>& sheets,
                                        const platform::Vocabulary& words) {
    std::vector<ChangedSheet> out;
    for (const SheetPointer& sheet : sheets) {
        std::error_code ignored;
        const fs::path path = usedPath(project, sheet->id);
        if (project.file.empty() || !isUsed(project, sheet->id) || !fs::is_regular_file(path, ignored))
            continue;
        try {
            auto before = std::make_shared<const platform::Sheet>(
                platform::sheetIn(platform::unpackedSheet(path), words));
            auto changes = platform::differencesOf(*before, *sheet);
            if (!changes.empty()) out.push_back({std::move(before), sheet, std::move(changes)});
        } catch (const Error&) {
            // Of a later program, or broken: nothing can be said of it, and it is kept anew with the next
            // save.
        }
    }
    return out;
}

void stayWithUsedSheet(const Project& project, const std::string& sheet, const platform::Vocabulary& words) {
    platform::takeSheet(platform::unpackedSheet(usedPath(project, sheet)),
                        platform::newSheetFolder(project.folder()), words);
}

} // namespace zl::project
