#include "core/learn/group_data.h"

#include "core/deliver/piece_data.h"

#include <algorithm>
#include <cctype>

namespace zl::learn {

namespace {

using nlohmann::json;

json fileData(const std::string& path, const FileFacts& file) {
    const std::filesystem::path p(path);
    return {
        {"path", path}, {"file", p.filename().string()}, {"stem", p.stem().string()}, {"bytes", file.bytes}};
}

const json& noFile() {
    static const json none{{"path", ""}, {"file", ""}, {"stem", ""}, {"bytes", 0}};
    return none;
}

/// The words of a name that is written in some style: "oak_door", "oak-door" and "OakDoor" are "Oak door".
std::string inWords(const std::string& name) {
    const auto isUpper = [&](std::size_t at) {
        return std::isupper(static_cast<unsigned char>(name[at])) != 0;
    };
    const auto isLower = [&](std::size_t at) {
        return std::islower(static_cast<unsigned char>(name[at])) != 0;
    };
    std::string out;
    for (std::size_t at = 0; at < name.size(); ++at) {
        if (name[at] == '-' || name[at] == '_') {
            out += ' ';
            continue;
        }
        // A capital begins a word where small letters follow, and one alone behind them.
        const bool follows = at + 1 < name.size() && isLower(at + 1);
        const bool begins = at > 0 && isUpper(at) && out.back() != ' ' && (follows || !isUpper(at - 1));
        if (begins) out += ' ';
        out += begins && follows ? char(std::tolower(static_cast<unsigned char>(name[at]))) : name[at];
    }
    if (!out.empty()) out[0] = char(std::toupper(static_cast<unsigned char>(out[0])));
    return out;
}

} // namespace

std::string titleOf(const Group& group, const std::vector<FileFacts>& files) {
    for (const Member& member : group.members) {
        if (!files[member.file].text) continue;
        for (const auto& [path, value] : files[member.file].text->fields)
            if (value != group.name && value.size() <= 80 && styleOf(value, group.name) >= 0) return value;
    }
    // Nothing says it: the words of the file's name, if they make that name again.
    const std::string words = inWords(group.name);
    return styleOf(words, group.name) >= 0 ? words : group.name;
}

json groupData(const Group& group, const std::vector<FileFacts>& files, const std::string& title) {
    json out = deliver::namedData(title);
    out["model"] = out["body"] = noFile();
    for (const char* list : {"models", "bodies", "pictures", "objects", "materials", "bones", "clips"})
        out[list] = json::array();
    std::size_t triangles = 0, corners = 0;
    std::set<std::string> materials;
    glm::dvec3 low(1e300), high(-1e300);
    for (const Member& member : group.members) {
        const FileFacts& file = files[member.file];
        const json data = fileData(file.path.substr(group.folder.size()), file);
        if (member.part == Part::Picture) {
            out["pictures"].push_back(data);
            continue;
        }
        if (!file.model) continue;
        const bool body = member.part == Part::Body;
        json& first = out[body ? "body" : "model"];
        if (first.at("path") == "") first = data;
        out[body ? "bodies" : "models"].push_back(data);
        if (body) continue;
        const ModelFacts& m = *file.model;
        triangles += m.triangles, corners += m.corners;
        low = glm::min(low, m.low), high = glm::max(high, m.high);
        for (const ModelFacts::Part& part : m.parts) {
            json object = deliver::namedData(part.name);
            object["triangles"] = part.triangles;
            object["file"] = data;
            out["objects"].push_back(std::move(object));
        }
        for (const std::string& name : m.materialNames)
            if (materials.insert(name).second) out["materials"].push_back(deliver::namedData(name));
        for (const std::string& name : m.boneNames) out["bones"].push_back(deliver::namedData(name));
        for (const std::string& name : m.clipNames) out["clips"].push_back(deliver::namedData(name));
    }
    out["triangles"] = triangles, out["corners"] = corners;
    const auto point = [](const glm::dvec3& p) { return json{{"x", p.x}, {"y", p.y}, {"z", p.z}}; };
    if (low.x <= high.x)
        out["bounds"] = {{"least", point(low)}, {"most", point(high)}, {"size", point(high - low)}};
    return out;
}

} // namespace zl::learn
