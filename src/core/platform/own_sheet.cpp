#include "core/platform/own_sheet.h"

#include "core/base/data_folder.h"
#include "core/base/file_set.h"

namespace fs = std::filesystem;

namespace zl::platform {

namespace {

bool liesIn(const fs::path& file, const fs::path& folder) {
    if (folder.empty()) return false;
    const auto relative = file.lexically_normal().lexically_relative(folder.lexically_normal());
    return !relative.empty() && *relative.begin() != "..";
}

} // namespace

SheetOwner ownerOf(const Sheet& sheet, const fs::path& projectFolder) {
    if (!projectFolder.empty() && liesIn(sheet.file, projectFolder / "platforms")) return SheetOwner::Project;
    if (const auto own = dataFolder(); !own.empty() && liesIn(sheet.file, own / "platforms"))
        return SheetOwner::Yours;
    return SheetOwner::Ships;
}

fs::path newSheetFolder(const fs::path& projectFolder) {
    return (projectFolder.empty() ? dataFolder() : projectFolder) / "platforms";
}

fs::path changeSheet(const Sheet& sheet, const fs::path& projectFolder,
                     const std::function<void(SheetText&)>& change, const Vocabulary& words) {
    SheetText text(readText(sheet.file));
    change(text);
    fs::path file = sheet.file;
    if (ownerOf(sheet, projectFolder) == SheetOwner::Ships)
        file = newSheetFolder(projectFolder) / (sheet.id + ".toml");
    // Its templates lie beside the one it came from.
    writeSheet(text.text(), sheetFromText(text.text(), sheet.file, words), file);
    return file;
}

void writeSheet(const std::string& text, const Sheet& sheet, const fs::path& file) {
    const fs::path folder = file.parent_path(), from = sheet.file.parent_path();
    std::vector<OutFile> files{{file.filename().string(), text}};
    if (from.lexically_normal() != folder.lexically_normal())
        for (const std::string& path : sheet.files.beside) files.push_back({path, readText(from / path)});
    writeAllOrNone(folder, files);
}

} // namespace zl::platform
