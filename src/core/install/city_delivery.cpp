#include "core/install/city_install.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/formats/city_files.h"
#include "core/install/zip_records.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::install {

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

} // namespace zl::install
