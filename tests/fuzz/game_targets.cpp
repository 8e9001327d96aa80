// Files of a game's folder, which others write too.
#include "fuzz/helpers.h"
#include "fuzz/targets.h"

#include "core/base/csv_table.h"
#include "core/formats/city_files.h"
#include "core/install/journal.h"
#include "core/install/zip_records.h"
#include "standins/city/object_file.h"

namespace fuzz {

using namespace zl;

namespace games {

namespace {

void installed(std::string_view bytes) {
    std::filesystem::create_directories(folder() / "zest-loom-installed");
    written(install::journalPath("x"), bytes);
    const auto journal = install::readJournal(folder(), "x");
    if (!journal) complain("a journal that is there was not found");
    for (const auto* files : {&journal->files, &journal->originals, &journal->kept})
        for (const auto& [path, hash] : *files)
            if (std::filesystem::path(path).lexically_normal().string().starts_with("..") || path[0] == '/')
                complain("a journal leads out of the game");
}

void cityMesh(std::string_view bytes) {
    for (const auto& part : standins::city::readMesh(bytes).parts) lookThrough(part.shape);
    const auto mesh = formats::readCityMesh(bytes, "x");
    if (formats::writeCityMesh(formats::readCityMesh(formats::writeCityMesh(mesh), "y")) !=
        formats::writeCityMesh(mesh))
        complain("a mesh does not come back as it was");
}

void cityPictures(std::string_view bytes) {
    standins::city::readPictures(bytes);
}

/// Both readers of bodies, ours and the city's.
void contactText(std::string_view bytes) {
    for (const auto& body : standins::city::readContact(bytes).bodies) {
        lookThrough(body.shape);
        if (body.kinds.size() * 3 != body.shape.indices.size()) complain("faces without a kind of their own");
    }
    const auto file = formats::readContactFile(bytes, "x");
    for (const auto& body : file.bodies)
        for (const auto& face : body.faces) {
            if (face.kind >= int(body.kinds.size())) complain("a kind that there is not");
            for (const auto corner : face.corner)
                if (corner >= body.corners.size()) complain("a corner that there is not");
        }
}

/// A line added to whatever a table is, and taken out again.
void cityTable(std::string_view bytes) {
    const auto table = readCsv(bytes);
    const std::string line = csvLine(table, {{"name", "post, \"small\""}, {"x", "1.5"}});
    const std::string with = std::string(bytes) + csvAddition(table, line);
    const auto without = withoutLine(with, line);
    if (!line.empty() && bytes.find(line) == bytes.npos && (!without || *without != bytes))
        complain("a table is not as it was before a line came and went");
}

/// An entry put into whatever an archive is, and taken out again.
void zipRecords(std::string_view bytes) {
    install::ZipRecords records{std::string(bytes), "x.zip"};
    const std::string before = records.bytes();
    if (records.has("ours")) return;
    records.add({{"ours", "some text"}});
    if (install::ZipRecords(records.bytes(), "y.zip").contentOf("ours") != "some text")
        complain("an entry is not what was put in");
    records.remove("ours");
    if (records.bytes() != before) complain("an archive is not as it was before an entry came and went");
}

} // namespace

const std::vector<Target>& targets() {
    static const std::vector<Target> all{{"installed", installed},        {"city-mesh", cityMesh},
                                         {"city-pictures", cityPictures}, {"contact", contactText},
                                         {"city-table", cityTable},       {"zip-records", zipRecords}};
    return all;
}

} // namespace games

} // namespace fuzz
