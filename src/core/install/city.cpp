#include "core/install/city.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/base/plain_number.h"
#include "core/formats/city_files.h"
#include "core/install/zip_records.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>
#include <unordered_map>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

constexpr std::size_t mostCityBytes = std::size_t(1) << 30, mostProblems = 50;

class CityReader {
public:
    CityReader(const fs::path& folder, const Progress& progress) : progress_(progress) {
        out_.folder = folder;
    }

    City read() {
        readDistricts();
        readDefinitions();
        progress_.report(0.3);
        progress_.checkCancel();
        for (const std::string& file : placementFiles(out_.folder)) readPlaces(file);
        progress_.report(0.7);
        progress_.checkCancel();
        readArchive();
        return std::move(out_);
    }

private:
    void problem(std::string text) {
        if (out_.problems.size() < mostProblems)
            out_.problems.push_back(std::move(text));
        else if (out_.problems.size() == mostProblems)
            out_.problems.emplace_back("and more");
    }
    void problemAt(std::string_view file, std::size_t line, const std::string& text) {
        problem(fmt::format("{}, line {}: {}", file, line, text));
    }

    /// A table with these columns; nothing when it is not there or has not all of them.
    std::optional<CsvTable> table(std::string_view file, std::initializer_list<const char*> columns) {
        const fs::path path = out_.folder / file;
        std::error_code error;
        if (!fs::is_regular_file(path, error)) {
            problem(fmt::format("{} is missing", file));
            return std::nullopt;
        }
        try {
            CsvTable out = readCsv(readText(path, mostCityBytes));
            for (const std::string& fault : out.problems) problem(fmt::format("{}, {}", file, fault));
            for (const char* column : columns)
                if (out.column(column) < 0) {
                    problem(fmt::format("{} has no column \"{}\"", file, column));
                    return std::nullopt;
                }
            return out;
        } catch (const Error& fault) {
            problem(fault.sentence());
            return std::nullopt;
        }
    }

    /// Numbers of a row's columns; false, with a problem said, when one is none.
    template <std::size_t N>
    bool numbers(const CsvTable& table, const CsvTable::Row& row, const std::array<int, N>& columns,
                 std::array<double, N>& to, std::string_view file) {
        for (std::size_t k = 0; k < N; ++k) {
            const auto value = csvNumber(table, row.at(columns[k]));
            if (!value || std::abs(*value) > 1e9) {
                problemAt(file, row.line,
                          fmt::format("\"{}\" is no {}", row.at(columns[k]),
                                      table.columns[std::size_t(columns[k])]));
                return false;
            }
            to[k] = *value;
        }
        return true;
    }

    void readDistricts() {
        const auto districts = table(cityDistricts, {"name", "x0", "y0", "x1", "y1"});
        if (!districts) return;
        const int name = districts->column("name");
        const std::array columns{districts->column("x0"), districts->column("y0"), districts->column("x1"),
                                 districts->column("y1")};
        for (const CsvTable::Row& row : districts->rows) {
            std::array<double, 4> v{};
            if (!numbers(*districts, row, columns, v, cityDistricts)) continue;
            out_.districts.push_back({std::string(row.at(name)),
                                      {std::min(v[0], v[2]), std::min(v[1], v[3])},
                                      {std::max(v[0], v[2]), std::max(v[1], v[3])}});
        }
    }

    void readDefinitions() {
        const auto defined = table(cityDefinitions, {"name", "number"});
        if (!defined) return;
        const int name = defined->column("name"), number = defined->column("number"),
                  pictures = defined->column("pictures"), view = defined->column("view"),
                  traits = defined->column("traits");
        std::unordered_map<int, std::string> numbers;
        std::set<std::string> names;
        for (const CsvTable::Row& row : defined->rows) {
            const auto value = onlyNumber<int>(row.at(number));
            if (!value) {
                problemAt(cityDefinitions, row.line, fmt::format("\"{}\" is no number", row.at(number)));
                continue;
            }
            Definition one{std::string(row.at(name)),
                           *value,
                           std::string(row.at(pictures)),
                           csvNumber(*defined, row.at(view)).value_or(0),
                           {},
                           row.line};
            std::string_view rest = row.at(traits);
            while (!rest.empty()) {
                const std::size_t end = std::min(rest.find(' '), rest.size());
                if (end > 0) one.traits.emplace_back(rest.substr(0, end));
                rest.remove_prefix(std::min(end + 1, rest.size()));
            }
            const auto [known, fresh] = numbers.try_emplace(one.number, one.name);
            if (!fresh)
                problemAt(cityDefinitions, row.line,
                          fmt::format("{} is the number of \"{}\" and of \"{}\"", one.number, known->second,
                                      one.name));
            if (!names.insert(one.name).second)
                problemAt(cityDefinitions, row.line, fmt::format("\"{}\" is defined twice", one.name));
            out_.definitions.push_back(std::move(one));
        }
    }

    void readPlaces(const std::string& file) {
        const auto places = table(file, {"name", "x", "y", "z", "qx", "qy", "qz", "qw"});
        if (!places) return;
        const int name = places->column("name"), district = places->column("district");
        const std::array columns{places->column("x"),  places->column("y"),  places->column("z"),
                                 places->column("qx"), places->column("qy"), places->column("qz"),
                                 places->column("qw")};
        const std::string own = file.size() > 15 ? file.substr(11, file.size() - 15) : std::string();
        out_.places.reserve(out_.places.size() + places->rows.size());
        for (const CsvTable::Row& row : places->rows) {
            std::array<double, 7> v{};
            if (!numbers(*places, row, columns, v, file)) continue;
            glm::dquat turn(v[6], v[3], v[4], v[5]);
            const double length = glm::length(turn);
            if (!(length > 1e-6)) {
                problemAt(file, row.line, "its turn is none");
                turn = {1, 0, 0, 0};
            } else {
                turn = turn / length;
            }
            out_.places.push_back({std::string(row.at(name)),
                                   {v[0], v[1], v[2]},
                                   turn,
                                   district >= 0 ? std::string(row.at(district)) : own,
                                   file,
                                   row.line});
        }
    }

    void readArchive() {
        const fs::path path = out_.folder / cityArchive;
        std::error_code error;
        if (!fs::is_regular_file(path, error)) return problem(fmt::format("{} is missing", cityArchive));
        try {
            const ZipRecords archive(readText(path, mostCityBytes), path.string());
            for (const std::string& name : archive.names()) {
                out_.entries[name] = archive.sizeOf(name);
                if (!name.ends_with(".contact")) continue;
                CollisionFile one{name, {}, {}};
                try {
                    const auto file =
                        formats::readContactFile(archive.contentOf(name, mostContactBytes), name);
                    one.by = file.by;
                    for (const auto& body : file.bodies) one.bodies.push_back(body.name);
                } catch (const Error& fault) {
                    problem(fault.sentence()); // it takes a place all the same
                }
                out_.collisionFiles.push_back(std::move(one));
            }
        } catch (const Error& fault) {
            problem(fault.sentence());
        }
    }

    const Progress& progress_;
    City out_;
};

} // namespace

const District* City::districtAt(const glm::dvec2& at) const {
    const auto found = std::ranges::find_if(districts, [&](const District& one) { return one.has(at); });
    return found == districts.end() ? nullptr : &*found;
}

const Definition* City::definitionOf(std::string_view name) const {
    const auto found = std::ranges::find(definitions, name, &Definition::name);
    return found == definitions.end() ? nullptr : &*found;
}

const Definition* City::withNumber(int number) const {
    const auto found = std::ranges::find(definitions, number, &Definition::number);
    return found == definitions.end() ? nullptr : &*found;
}

const CollisionFile* City::collisionOf(std::string_view name) const {
    for (const CollisionFile& file : collisionFiles)
        if (std::ranges::find(file.bodies, name) != file.bodies.end()) return &file;
    return nullptr;
}

int City::freeNumber(int least, int most, const std::vector<int>& others) const {
    std::set<int> taken(others.begin(), others.end());
    for (const Definition& one : definitions) taken.insert(one.number);
    for (int number = least; number <= most; ++number)
        if (!taken.contains(number)) return number;
    return 0;
}

bool isCity(const fs::path& folder) {
    std::error_code error;
    return fs::is_regular_file(folder / cityDefinitions, error) ||
           fs::is_regular_file(folder / cityDistricts, error);
}

City readCity(const fs::path& folder, const Progress& progress) {
    std::error_code error;
    if (!fs::is_directory(folder, error))
        throw Error("is no folder", folder.string(), "Choose the game's own folder.");
    if (!isCity(folder))
        throw Error(fmt::format("has neither {} nor {}", cityDefinitions, cityDistricts), folder.string(),
                    "Choose the game's own folder.");
    return CityReader(folder, progress).read();
}

std::vector<std::string> placementFiles(const fs::path& folder) {
    std::vector<std::string> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder, error)) {
        const std::string name = entry.path().filename().string();
        if (name.starts_with(cityPlacements) && name.ends_with(".csv")) out.push_back(name);
    }
    std::ranges::sort(out);
    return out;
}

std::string placementFileOf(const std::string& district) {
    return district.empty() ? fmt::format("{}.csv", cityPlacements)
                            : fmt::format("{}-{}.csv", cityPlacements, district);
}

} // namespace zl::install
