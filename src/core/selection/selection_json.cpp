#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/utf8.h"
#include "core/base/words.h"
#include "core/selection/face_ranges.h"
#include "core/selection/selection.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <charconv>

namespace zl::selection {

using nlohmann::json;

namespace {

constexpr double degree = 3.14159265358979323846 / 180;
constexpr std::size_t mostTerms = 10000;

[[noreturn]] void refuse(const std::string& what, const std::string& expected) {
    throw Error(what, {}, "Expected " + expected + ".");
}

const json& member(const json& from, const char* name) {
    if (!from.is_object() || !from.contains(name))
        refuse(fmt::format("\"{}\" is missing in a selection", name),
               "one of the forms in docs/selections.md");
    return from[name];
}

std::string text(const json& value) {
    if (!value.is_string()) refuse(shortened(jsonText(value), 80) + " is not a name", "text");
    return value.get<std::string>();
}

std::vector<std::string> texts(const json& value) {
    if (!value.is_array())
        refuse(shortened(jsonText(value), 80) + " is not a list of names", "[\"name\", …]");
    std::vector<std::string> out;
    for (const auto& name : value) out.push_back(text(name));
    return out;
}

double number(const json& value, double least, double most) {
    if (!value.is_number() || !(value.get<double>() >= least && value.get<double>() <= most))
        refuse(shortened(jsonText(value), 80) + " stands in a selection",
               fmt::format("a number from {} to {}", least, most));
    return value.get<double>();
}

glm::dvec3 place(const json& value) {
    if (!value.is_array() || value.size() != 3) refuse("a corner of a box is not a place", "[x, y, z]");
    return {number(value[0], -1e9, 1e9), number(value[1], -1e9, 1e9), number(value[2], -1e9, 1e9)};
}

json listJson(Hash topology, const std::vector<std::uint32_t>& faces) {
    return {{"topology", fmt::format("{:016x}", topology)}, {"faces", rangesOf(faces)}};
}

json storedJson(const StoredFaces& stored) {
    json out = listJson(stored.topology, stored.faces);
    out["object"] = stored.object;
    for (const auto& other : stored.others) out["others"].push_back(listJson(other.topology, other.faces));
    return out;
}

void readList(const json& value, Hash& topology, std::vector<std::uint32_t>& faces) {
    const std::string hash = text(member(value, "topology"));
    const auto read = std::from_chars(hash.data(), hash.data() + hash.size(), topology, 16);
    if (hash.size() != 16 || read.ec != std::errc() || read.ptr != hash.data() + hash.size())
        refuse("a topology is not sixteen hexadecimal digits", "what the program wrote");
    faces = facesFrom(text(member(value, "faces")));
}

StoredFaces storedFrom(const json& value) {
    StoredFaces out;
    out.object = text(member(value, "object"));
    readList(value, out.topology, out.faces);
    if (const auto others = value.find("others"); others != value.end()) {
        if (!others->is_array()) refuse("the faces for other sizes are no list", "what the program wrote");
        for (const json& other : *others) {
            auto& read = out.others.emplace_back();
            readList(other, read.topology, read.faces);
        }
    }
    return out;
}

struct Written {
    const char* key;
    json value;
};

Written written(const OfParts& of) {
    if (of.paths.empty()) return {"parts", of.names};
    return {"parts", {{"names", of.names}, {"paths", of.paths}}};
}
Written written(const OfMaterials& of) {
    return {"materials", of.names};
}
Written written(const OfLooseParts& of) {
    return {"loose", storedJson(of.from)};
}
Written written(const OfRegion& of) {
    json value = storedJson(of.from);
    value["angle"] = std::round(of.angle / degree * 1e9) / 1e9;
    return {"region", value};
}
Written written(const InBox& in) {
    return {"box",
            {{"least", {in.least.x, in.least.y, in.least.z}}, {"most", {in.most.x, in.most.y, in.most.z}}}};
}
Written written(const OnBone& on) {
    return {"bone", {{"name", on.bone}, {"weight", on.weight}}};
}
Written written(const OfFaces& of) {
    return {"faces", storedJson(of.stored)};
}
Written written(const OfNamed& of) {
    return {"named", of.name};
}

What whatFrom(const std::string& key, const json& value) {
    if (key == "parts" && value.is_object())
        return OfParts{texts(member(value, "names")), texts(member(value, "paths"))};
    if (key == "parts") return OfParts{texts(value), {}};
    if (key == "materials") return OfMaterials{texts(value)};
    if (key == "loose") return OfLooseParts{storedFrom(value)};
    if (key == "region") return OfRegion{storedFrom(value), number(member(value, "angle"), 0, 180) * degree};
    if (key == "box") return InBox{place(member(value, "least")), place(member(value, "most"))};
    if (key == "bone") return OnBone{text(member(value, "name")), number(member(value, "weight"), 0, 1)};
    if (key == "faces") return OfFaces{storedFrom(value)};
    if (key == "named") return OfNamed{text(value)};
    refuse(fmt::format("a selection has no term \"{}\"", shortened(key, 60)),
           "parts, materials, loose, region, box, bone, faces or named");
}

} // namespace

json toJson(const Selection& selection) {
    json out = json::array();
    for (const Term& term : selection.terms) {
        auto [key, value] = std::visit([](const auto& what) { return written(what); }, term.what);
        json line = {{key, std::move(value)}};
        if (term.takesAway) line["less"] = true;
        out.push_back(std::move(line));
    }
    return out;
}

Selection fromJson(const json& list) {
    if (!list.is_array() || list.size() > mostTerms)
        refuse("a selection is not a list", "[{\"parts\": [\"name\", …]}, …]");
    Selection out;
    for (const json& line : list) {
        if (!line.is_object()) refuse("a term of a selection is not an object", "{\"parts\": [\"name\", …]}");
        Term term;
        std::string key;
        for (const auto& [name, value] : line.items()) {
            if (name == "less") {
                if (!value.is_boolean()) refuse("\"less\" is neither true nor false", "one of them");
                term.takesAway = value.get<bool>();
            } else if (!key.empty()) {
                refuse(fmt::format("a term has both \"{}\" and \"{}\"", key, shortened(name, 60)),
                       "one of them in each");
            } else {
                key = name;
            }
        }
        if (key.empty()) refuse("a term of a selection says nothing", "{\"parts\": [\"name\", …]}");
        term.what = whatFrom(key, line[key]);
        out.terms.push_back(std::move(term));
    }
    return out;
}

std::vector<std::string> namesIn(const Selection& selection) {
    std::vector<std::string> names;
    for (const Term& term : selection.terms)
        if (const auto* named = std::get_if<OfNamed>(&term.what)) names.push_back(named->name);
    return names;
}

namespace {

std::string lastName(const NodePath& path) {
    return path.substr(path.rfind('/') + 1);
}

struct Words {
    std::string operator()(const OfParts& of) const {
        std::vector<std::string> all = of.names;
        for (const NodePath& path : of.paths) all.push_back(lastName(path));
        return (all.size() == 1 ? "part " : "parts ") + showNames(all);
    }
    std::string operator()(const OfMaterials& of) const {
        return (of.names.size() == 1 ? "material " : "materials ") + showNames(of.names);
    }
    std::string operator()(const OfLooseParts& of) const {
        return fmt::format("what hangs together in {}", lastName(of.from.object));
    }
    std::string operator()(const OfRegion& of) const {
        return fmt::format("a region of {} up to creases of {}°", lastName(of.from.object),
                           std::round(of.angle / degree));
    }
    std::string operator()(const InBox&) const { return "what is in a box"; }
    std::string operator()(const OnBone& on) const { return fmt::format("what hangs on bone {}", on.bone); }
    std::string operator()(const OfFaces& of) const {
        return fmt::format("{} of {}",
                           showCount(static_cast<long long>(of.stored.faces.size()), "triangle", "triangles"),
                           lastName(of.stored.object));
    }
    std::string operator()(const OfNamed& of) const { return fmt::format("\"{}\"", of.name); }
};

} // namespace

std::string inWords(const Selection& selection) {
    std::string out;
    for (const Term& term : selection.terms)
        out += fmt::format("{}{}{}", out.empty() ? "" : ", ", term.takesAway ? "without " : "",
                           std::visit(Words{}, term.what));
    return out.empty() ? "nothing" : out;
}

} // namespace zl::selection
