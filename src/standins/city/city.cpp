#include "standins/city/city.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>

namespace fs = std::filesystem;

namespace zl::standins::city {

namespace {

using MessageKind = Message::Kind;

// The city's limits, stated here a second time on purpose: a game does not ask the product.
constexpr long leastNumber = 40000, mostNumber = 47999;
constexpr double leastView = 20, mostView = 600;
constexpr std::size_t mostTriangles = 20000, mostFaces = 2000, mostCollisionFiles = 5,
                      mostBytes = std::size_t(1) << 30;

/// The districts of the city as it ships.
const District shipped[] = {{"lamplighters", {300, 0}, {500, 200}},
                            {"fishmarket", {500, 0}, {700, 200}},
                            {"ropewalk", {300, -200}, {500, 0}},
                            {"customs", {500, -200}, {700, 0}}};

/// A table as the city reads it: by the names in its first line; cells may be in quotes.
struct Rows {
    std::vector<std::string> head;
    std::vector<std::vector<std::string>> rows;
    std::vector<std::size_t> lines;

    std::string at(std::size_t row, std::string_view column) const {
        const auto found = std::ranges::find(head, column);
        const auto k = std::size_t(found - head.begin());
        return k < rows[row].size() && k < head.size() ? rows[row][k] : std::string();
    }
};

Rows tableOf(const std::string& text) {
    Rows out;
    std::vector<std::string> row;
    std::string cell;
    bool quoted = false, any = false;
    std::size_t line = 1, began = 1;
    const std::size_t start = text.starts_with("\xEF\xBB\xBF") ? 3 : 0;
    const std::string first = text.substr(start, text.find_first_of("\r\n", start) - start);
    const char separator = std::ranges::count(first, ';') > std::ranges::count(first, ',') ? ';' : ',';
    const auto endCell = [&] {
        while (!cell.empty() && cell.back() == ' ') cell.pop_back();
        row.push_back(std::move(cell));
        cell.clear();
    };
    const auto endRow = [&] {
        if (any) {
            endCell();
            if (out.head.empty())
                out.head = row;
            else
                out.rows.push_back(row), out.lines.push_back(began);
        }
        row.clear(), any = false;
    };
    for (std::size_t i = start; i < text.size(); ++i) {
        const char c = text[i];
        if (!any && c != '\n' && c != '\r') any = true, began = line;
        if (c == '\n') ++line;
        if (quoted) {
            if (c != '"')
                cell += c;
            else if (i + 1 < text.size() && text[i + 1] == '"')
                cell += text[++i];
            else
                quoted = false;
        } else if (c == '"' && cell.empty()) {
            quoted = true;
        } else if (c == separator) {
            endCell();
        } else if (c == '\n' || c == '\r') {
            endRow();
        } else if (c != ' ' || !cell.empty()) {
            cell += c;
        }
    }
    endRow();
    return out;
}

std::optional<double> numberIn(std::string text) {
    std::ranges::replace(text, ',', '.');
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc() || end != text.data() + text.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

class Loader {
public:
    Loader(const fs::path& folder, TryReport& report) : files_(folder, report) {}

    std::optional<CityLoaded> load() {
        if (files_.refused()) return std::nullopt;
        std::error_code error;
        out_.isDelivery = !fs::is_regular_file(files_.folder() / "districts.csv", error);
        if (out_.isDelivery) {
            const auto about = files_.description(".object.json", "city-object", {"name", "credit"});
            if (about.is_null()) return std::nullopt;
            out_.credit = about["credit"];
        }
        readDistricts();
        if (!unpack() || !readDefinitions()) return std::nullopt;
        readContacts();
        if (!files_.refused())
            for (Object& object : out_.objects) readObject(object);
        readPlaces();
        return std::move(out_);
    }

private:
    void refuse(const std::string& file, const std::string& text, const std::string& detail) {
        files_.say(MessageKind::Refused, file, text, detail);
    }
    void pass(const std::string& file, const std::string& text, const std::string& detail) {
        files_.say(MessageKind::Odd, file, text, detail);
    }

    void readDistricts() {
        if (out_.isDelivery) {
            out_.districts.assign(std::begin(shipped), std::end(shipped));
            return;
        }
        const auto text = files_.bytes("districts.csv");
        if (!text) return;
        const Rows rows = tableOf(*text);
        for (std::size_t r = 0; r < rows.rows.size(); ++r) {
            double v[4];
            bool fine = true;
            for (int k = 0; k < 4; ++k) {
                const auto value = numberIn(rows.at(r, std::array{"x0", "y0", "x1", "y1"}[std::size_t(k)]));
                fine = fine && value;
                v[k] = value.value_or(0);
            }
            if (fine) out_.districts.push_back({rows.at(r, "name"), {v[0], v[1]}, {v[2], v[3]}});
        }
    }

    bool unpack() {
        const auto bytes = files_.bytes("objects.zip");
        if (!bytes) return false;
        zip_ = world::readZip(*bytes, mostBytes);
        if (!zip_.problem.empty())
            refuse("objects.zip", "The archive cannot be opened: " + zip_.problem, "the city does not start");
        return zip_.problem.empty();
    }

    bool readDefinitions() {
        const auto text = files_.bytes("definitions.csv");
        if (!text) return false;
        const Rows rows = tableOf(*text);
        std::map<long, std::string> numbers;
        for (std::size_t r = 0; r < rows.rows.size(); ++r) {
            Object object{rows.at(r, "name"), 0, 0, {}, {}, {}, nullptr};
            const std::string where = fmt::format("definitions.csv:{}", rows.lines[r]),
                              number = rows.at(r, "number");
            const auto [end, error] =
                std::from_chars(number.data(), number.data() + number.size(), object.number);
            if (error != std::errc() || end != number.data() + number.size()) {
                refuse(where, fmt::format("\"{}\" is no number", number), "the city stops at this line");
                return false;
            }
            if (object.number < leastNumber || object.number > mostNumber)
                refuse(where, fmt::format("{} is outside of 40 000 to 47 999", object.number),
                       "others own those numbers");
            const auto [known, fresh] = numbers.try_emplace(object.number, object.name);
            if (!fresh)
                refuse(where,
                       fmt::format("\"{}\" and \"{}\" are both number {}", known->second, object.name,
                                   object.number),
                       "the city stops while loading");
            object.view = numberIn(rows.at(r, "view")).value_or(0);
            if (object.view < leastView || object.view > mostView)
                refuse(where, fmt::format("\"{}\" is seen from {} m", object.name, showMeasure(object.view)),
                       "takes 20 to 600 m");
            std::string traits = rows.at(r, "traits");
            for (std::size_t at = 0; at < traits.size();) {
                const std::size_t blank = std::min(traits.find(' ', at), traits.size());
                if (blank > at) object.traits.insert(traits.substr(at, blank - at));
                at = blank + 1;
            }
            out_.objects.push_back(std::move(object));
        }
        if (out_.objects.empty()) {
            refuse("definitions.csv", "It defines nothing", "there is nothing to show");
            return false;
        }
        out_.newest = out_.objects.size() - 1;
        return true;
    }

    void readContacts() {
        for (const auto& [name, bytes] : zip_.entries) {
            if (!name.ends_with(".contact")) continue;
            ContactFile file = city::readContact(bytes);
            if (!file.problem.empty()) {
                refuse(name, "The body cannot be read: " + file.problem, "everything would walk through it");
                continue;
            }
            for (const Body& body : file.bodies) judge(name, body);
            out_.contacts[name] = std::move(file);
        }
        if (out_.contacts.size() > mostCollisionFiles)
            refuse("objects.zip",
                   fmt::format("The city ended half-way: it met collision file {} of {}, and holds 5",
                               mostCollisionFiles + 1, out_.contacts.size()),
                   "the game says nothing when that happens; put one body into another's file");
        for (Object& object : out_.objects)
            for (const auto& [name, file] : out_.contacts)
                for (const Body& body : file.bodies)
                    if (body.name == object.name) object.body = &body;
    }

    void judge(const std::string& name, const Body& body) {
        const std::size_t faces = body.shape.indices.size() / 3;
        if (faces > mostFaces)
            refuse(name, fmt::format("{} faces in the body of \"{}\"", faces, body.name),
                   world::over(double(faces), mostFaces));
        std::size_t silent = 0;
        std::set<std::string> odd;
        for (const std::string& kind : body.kinds) {
            if (kind.empty())
                ++silent;
            else if (!kindNamed(kind))
                odd.insert(kind);
        }
        if (silent > 0)
            refuse(name,
                   fmt::format("{} of \"{}\" are of nothing", showCount(long(silent), "face", "faces"),
                               body.name),
                   "they are silent, and cars slide on them");
        for (const std::string& kind : odd)
            refuse(name, fmt::format("\"{}\" is no kind of the city", kind), "it is taken for water");
    }

    void readObject(Object& object) {
        const auto mesh = zip_.entries.find(object.name + ".mesh"),
                   pictures = zip_.entries.find(object.name + ".pictures");
        const bool ours = &object == &out_.objects[out_.newest];
        if (mesh == zip_.entries.end()) {
            ours ? refuse("objects.zip", fmt::format("There is no {}.mesh", object.name),
                          "nothing would be seen")
                 : pass("objects.zip", fmt::format("There is no {}.mesh", object.name),
                        "the game passes over it");
            return;
        }
        object.mesh = city::readMesh(mesh->second);
        if (!object.mesh.problem.empty())
            refuse(mesh->first, "The mesh " + object.mesh.problem, "the city stops while loading");
        if (object.mesh.triangles > mostTriangles)
            refuse(mesh->first, showNumber(double(object.mesh.triangles), 0) + " triangles",
                   world::over(double(object.mesh.triangles), double(mostTriangles)));
        else if (ours && object.mesh.problem.empty())
            files_.say(MessageKind::Fine, mesh->first,
                       showNumber(double(object.mesh.triangles), 0) + " triangles", "fine");
        if (pictures == zip_.entries.end()) return;
        PicturesFile file = city::readPictures(pictures->second);
        if (!file.problem.empty())
            refuse(pictures->first, "It " + file.problem, "the city shows it without pictures, or stops");
        object.pictures = std::move(file.pictures);
        for (const MeshFile::Part& part : object.mesh.parts)
            if (!part.picture.empty() && !object.pictures.contains(part.picture))
                refuse(pictures->first, fmt::format("\"{}\" is not in it", part.picture),
                       "the part would be black");
    }

    void readPlaces() {
        std::map<std::string, std::size_t> byName;
        for (std::size_t i = 0; i < out_.objects.size(); ++i) byName[out_.objects[i].name] = i;
        std::vector<std::string> names;
        std::error_code error;
        for (const auto& entry : fs::directory_iterator(files_.folder(), error)) {
            const std::string name = entry.path().filename().string();
            if (name.starts_with("placements") && name.ends_with(".csv")) names.push_back(name);
        }
        if (out_.isDelivery && std::ranges::find(names, "placements.csv") == names.end())
            files_.bytes("placements.csv"); // which says that it is missing
        std::ranges::sort(names);
        for (const std::string& name : names) readPlacesOf(name, byName);
        if (std::ranges::none_of(out_.places, [&](const Place& p) { return p.object == out_.newest; }))
            pass("", fmt::format("\"{}\" stands nowhere", out_.objects[out_.newest].name),
                 "it is loaded, and nobody will ever see it");
    }

    void readPlacesOf(const std::string& name, const std::map<std::string, std::size_t>& byName) {
        const auto text = files_.bytes(name);
        if (!text) return;
        const Rows rows = tableOf(*text);
        for (const char* column : {"name", "x", "y", "z", "qx", "qy", "qz", "qw"})
            if (std::ranges::find(rows.head, column) == rows.head.end())
                return refuse(name, fmt::format("It has no column \"{}\"", column),
                              "the city stops at this table");
        const std::string tables = name.size() > 15 ? name.substr(11, name.size() - 15) : std::string();
        for (std::size_t r = 0; r < rows.rows.size(); ++r) {
            const std::string where = fmt::format("{}:{}", name, rows.lines[r]);
            const auto object = byName.find(rows.at(r, "name"));
            if (object == byName.end()) {
                pass(where, fmt::format("\"{}\" is not defined", rows.at(r, "name")),
                     "the game passes over it");
                continue;
            }
            double v[7];
            bool fine = true;
            for (std::size_t k = 0; k < 7; ++k) {
                const auto value = numberIn(rows.at(r, std::array{"x", "y", "z", "qx", "qy", "qz", "qw"}[k]));
                fine = fine && value;
                v[k] = value.value_or(0);
            }
            if (!fine) {
                refuse(where, "A number is none", "the city stops at this line");
                continue;
            }
            const glm::dquat turn(v[6], v[3], v[4], v[5]);
            if (std::abs(glm::length(turn) - 1) > 1e-3) {
                refuse(where,
                       fmt::format("The turn of \"{}\" has length {}", object->first,
                                   showMeasure(glm::length(turn))),
                       "it must be 1, or the object is pressed");
                continue;
            }
            Place place{object->second, {v[0], v[1], v[2]}, glm::normalize(turn), {}};
            for (const District& district : out_.districts)
                if (place.district.empty() && v[0] >= district.low.x && v[0] < district.high.x &&
                    v[1] >= district.low.y && v[1] < district.high.y)
                    place.district = district.name;
            const std::string said = rows.at(r, "district").empty() ? tables : rows.at(r, "district");
            if (place.district.empty()) {
                pass(where, fmt::format("\"{}\" stands outside of every district", object->first),
                     "the game never loads it");
                continue;
            }
            if (!said.empty() && said != place.district)
                pass(where,
                     fmt::format("\"{}\" is in the table of {} and stands in {}", object->first, said,
                                 place.district),
                     "it comes and goes with the wrong district");
            out_.places.push_back(std::move(place));
        }
    }

    world::Files files_;
    world::PackedFiles zip_;
    CityLoaded out_;
};

} // namespace

std::optional<CityLoaded> loadCity(const fs::path& folder, TryReport& report) {
    auto city = Loader(folder, report).load();
    report.accepted = city && std::ranges::none_of(report.messages, [](const Message& m) {
                          return m.kind == MessageKind::Refused;
                      });
    return city;
}

glm::mat4 poseOf(const Place& place) {
    // The shown world's axes are the city's, turned: taken through to the city, placed there, and back.
    const auto column = [](const glm::vec3& v) { return glm::vec4(v, 0); };
    const glm::mat4 toShown(column(shown({1, 0, 0})), column(shown({0, 1, 0})), column(shown({0, 0, 1})),
                            glm::vec4(0, 0, 0, 1));
    glm::mat4 there = glm::mat4_cast(glm::quat(place.turn));
    there[3] = glm::vec4(glm::vec3(place.at), 1);
    return toShown * there * glm::inverse(toShown);
}

} // namespace zl::standins::city
