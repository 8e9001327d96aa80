#include "core/project/sheet_yardsticks.h"

#include "core/base/error.h"
#include "core/base/toml_text.h"
#include "core/base/unique_names.h"
#include "core/platform/table_reader.h"
#include "core/project/dependencies.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

constexpr const char *listName = "yardsticks.toml", *folderName = "yardsticks/";

} // namespace

std::vector<OutFile> yardstickFiles(const Project& project) {
    std::vector<OutFile> out;
    std::string list;
    UniqueNames names;
    for (const YardstickSource& one : project.yardsticks) {
        const fs::path path = wholePath(project, one.path);
        std::error_code ignored;
        if (!fs::is_regular_file(path, ignored)) continue;
        const std::string name = folderName + names.made(fileNameFrom(one.name)) + path.extension().string();
        list += fmt::format("[[yardstick]]\nname = {}\nfile = {}\nunit = {}\nup = {}\n\n", tomlText(one.name),
                            tomlText(name), tomlText(one.unit), tomlText(one.up));
        out.push_back({name, readText(path, std::size_t(512) << 20)});
    }
    if (!out.empty()) out.push_back({listName, list});
    return out;
}

std::vector<YardstickSource> yardsticksIn(const fs::path& folder) {
    std::vector<YardstickSource> out;
    const fs::path list = folder / listName;
    std::error_code ignored;
    if (!fs::is_regular_file(list, ignored)) return out;
    const toml::table root = platform::parsedTable(readText(list), list);
    platform::TableReader reader(root, list);
    for (const toml::table* table : reader.tables("yardstick", false)) {
        platform::TableReader one(*table, list);
        YardstickSource yardstick;
        yardstick.name = one.text("name");
        const std::string file = one.text("file");
        yardstick.unit = one.text("unit", false), yardstick.up = one.text("up", false);
        one.refuseOthers();
        const fs::path plain = fs::path(file).lexically_normal();
        if (plain.is_absolute() || plain.empty() || *plain.begin() == "..")
            one.fail(table->get("file"), fmt::format("\"{}\" leads out of the folder", file),
                     "a file beside it");
        if (!fs::is_regular_file(folder / plain, ignored))
            one.fail(table->get("file"), fmt::format("there is no file \"{}\"", file), "a file beside it");
        yardstick.path = folder / plain;
        out.push_back(std::move(yardstick));
    }
    reader.refuseOthers();
    return out;
}

} // namespace zl::project
