#include "core/deliver/piece_data.h"

#include "core/base/name_styles.h"
#include "core/geometry/world.h"
#include "core/model/on_map.h"
#include "core/platform/cost.h"

#include <fmt/format.h>

#include <cmath>

namespace zl::deliver {

namespace {

using nlohmann::json;

std::string stemOf(const std::string& path) {
    return std::filesystem::path(path).stem().string();
}
std::string fileOf(const std::string& path) {
    return std::filesystem::path(path).filename().string();
}

json pointData(const glm::dvec3& p) {
    // Six decimals: enough for every unit, and the same in every run.
    const auto round = [](double v) { return std::round(v * 1e6) / 1e6 + 0.0; };
    return {{"x", round(p.x)}, {"y", round(p.y)}, {"z", round(p.z)}};
}

json boxData(const geometry::Bounds& bounds, const glm::dmat4& toFile) {
    glm::dvec3 low(0), high(0);
    if (bounds.min.x <= bounds.max.x) {
        const glm::dvec3 a = toFile * glm::dvec4(bounds.min, 1), b = toFile * glm::dvec4(bounds.max, 1);
        low = glm::min(a, b), high = glm::max(a, b);
    }
    return {{"least", pointData(low)}, {"most", pointData(high)}, {"size", pointData(high - low)}};
}

json fileData(const Written& file, const Model& model) {
    json out{{"path", file.path},
             {"file", fileOf(file.path)},
             {"stem", stemOf(file.path)},
             {"bytes", file.bytes},
             {"role", file.role},
             {"object", file.object},
             {"material", file.material < 0 ? "" : model.materials[std::size_t(file.material)].name}};
    return out;
}

json filesOf(Written::Kind kind, const std::vector<Written>& written, const Model& model) {
    json out = json::array();
    for (const Written& file : written)
        if (file.kind == kind) out.push_back(fileData(file, model));
    return out;
}

/// The first file that `isMeant` says yes to; empty texts where there is none.
json firstFile(const std::vector<Written>& written, const Model& model, const auto& isMeant) {
    for (const Written& file : written)
        if (isMeant(file)) return fileData(file, model);
    return fileData({}, model);
}

json materialData(const Model& model, int m, const platform::Sheet& sheet,
                  const std::vector<Written>& written, std::size_t triangles) {
    const Material& material = model.materials[std::size_t(m)];
    json out = namedData(material.name);
    out["delivered"] = sheet.surface.materialFor(material.name);
    out["colour"] = {{"red", material.baseColour.r},
                     {"green", material.baseColour.g},
                     {"blue", material.baseColour.b},
                     {"alpha", material.baseColour.a}};
    out["metalness"] = material.metalness;
    out["roughness"] = material.roughness;
    out["seeThrough"] = material.alpha != Material::Alpha::Opaque;
    out["bothSides"] = material.doubleSided;
    out["triangles"] = triangles;
    out["pictures"] = json::array();
    for (const Written& file : written)
        if (file.kind == Written::Kind::Picture && file.material == m)
            out["pictures"].push_back(fileData(file, model));
    out["settings"] = json::array();
    for (const auto& [name, value] : material.settings)
        out["settings"].push_back(
            {{"name", name}, {"value", std::visit([](const auto& held) { return json(held); }, value)}});
    return out;
}

json costData(const Model& model, const platform::Sheet& sheet) {
    json out{{"uploadBytes", 0},
             {"triangles", 0},
             {"meshBytes", 0},
             {"qualities", json::array()},
             {"frameMillis", ""}};
    if (sheet.cost.qualities.empty()) return out;
    const platform::Cost cost = platform::costOf(model, sheet);
    out["uploadBytes"] = std::llround(cost.upload);
    out["triangles"] = cost.triangles;
    out["meshBytes"] = std::llround(cost.mesh);
    for (const auto& quality : cost.qualities)
        out["qualities"].push_back(
            {{"name", quality.name}, {"pictureBytes", std::llround(quality.pictures)}});
    if (const auto frame = cost.frame(1, true, cost.usual(), sheet.cost)) out["frameMillis"] = *frame;
    return out;
}

json objectsData(const Model& model, const glm::dmat4& toFile, const std::vector<Written>& written) {
    json out = json::array();
    const auto world = worldMatrices(model);
    std::map<std::string, std::vector<const Written*>> filesOfObjects; // of one name there may be several
    std::map<int, const Written*> pictureOfMaterial;                   // the first
    for (const Written& file : written) {
        if (file.kind == Written::Kind::Model) filesOfObjects[file.object].push_back(&file);
        if (file.kind == Written::Kind::Picture) pictureOfMaterial.try_emplace(file.material, &file);
    }
    const Written none;
    std::map<std::string, std::size_t> seen;
    for (const int n : shownNodes(model)) {
        const Node& node = model.nodes[std::size_t(n)];
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        if (mesh.triangleCount() == 0) continue; // no file is written of it either
        json object = namedData(node.name);
        object["triangles"] = mesh.triangleCount();
        object["corners"] = mesh.vertexCount();
        object["place"] = pointData(toFile * world[std::size_t(n)][3]);
        const auto& files = filesOfObjects[node.name];
        const std::size_t before = seen[node.name]++;
        object["file"] = fileData(before < files.size() ? *files[before] : none, model);
        object["materials"] = json::array();
        const Written* picture = nullptr; // the first that was written of those that it wears
        for (const MaterialRun& run : mesh.runs) {
            if (run.triangleCount == 0 || run.material < 0) continue;
            object["materials"].push_back(namedData(model.materials[std::size_t(run.material)].name));
            const auto worn = pictureOfMaterial.find(run.material);
            if (worn != pictureOfMaterial.end() && (!picture || worn->second < picture))
                picture = worn->second;
        }
        object["picture"] = fileData(picture ? *picture : none, model);
        out.push_back(std::move(object));
    }
    return out;
}

} // namespace

json namedData(const std::string& name) {
    json out{{"name", name}};
    for (std::size_t i = 0; i < nameStyleWords().size(); ++i)
        out[std::string(nameStyleWords()[i])] = styledName(name, NameStyle(i));
    return out;
}

json pieceData(const Model& model, const Model& whole, const platform::Sheet& sheet, const Labels& labels,
               const formats::WriteOptions& frame, const std::map<std::string, std::string>& answers,
               const std::vector<Written>& written) {
    const glm::dmat4 toFile = formats::worldToFile(frame);
    json out = namedData(labels.name);
    out["credit"] = labels.credit;
    out["size"] = labels.sizes.first;
    out["platform"] = {{"id", sheet.id},
                       {"name", sheet.name},
                       {"unit", sheet.unitName},
                       {"metres", sheet.metresPerUnit},
                       {"up", frame.up == Up::Y ? "Y" : "Z"},
                       {"front", frame.front},
                       {"fileMetres", frame.metresPerUnit},
                       {"multiplies", sheet.importerFactor},
                       {"engine", sheet.touch.engine}};
    out["number"] = model.onMap ? model.onMap->number : 0;
    out["viewDistance"] = model.onMap ? model.onMap->viewDistance / sheet.metresPerUnit : 0;
    out["traits"] = json::array();
    if (model.onMap)
        for (const std::string& trait : model.onMap->traits) out["traits"].push_back({{"name", trait}});
    out["triangles"] = triangleCount(model);
    out["corners"] = vertexCount(model);
    out["bounds"] = boxData(geometry::worldBounds(model), toFile);
    out["objects"] = objectsData(model, toFile, written);
    out["materials"] = json::array();
    const auto worn = trianglesByMaterial(model);
    for (const int m : usedMaterials(model))
        if (m >= 0) out["materials"].push_back(materialData(model, m, sheet, written, worn.at(m)));
    out["bones"] = json::array();
    for (const Skin& skin : model.skins)
        for (const int joint : skin.joints)
            out["bones"].push_back(namedData(model.nodes[std::size_t(joint)].name));
    out["clips"] = json::array();
    for (const auto& clip : model.clips) {
        float seconds = 0;
        for (const Channel& channel : clip->channels)
            if (!channel.times.empty()) seconds = std::max(seconds, channel.times.back());
        json one = namedData(clip->name);
        one["seconds"] = std::round(double(seconds) * 1e4) / 1e4;
        out["clips"].push_back(std::move(one));
    }
    out["slots"] = json::array();
    for (const ClipSlot& slot : model.clipSlots)
        out["slots"].push_back(
            {{"name", slot.name}, {"clip", slot.clip < 0 ? "" : model.clips[std::size_t(slot.clip)]->name}});
    out["surfaces"] = json::array();
    for (const std::string& kind : model.surfaceKinds) out["surfaces"].push_back({{"name", kind}});
    out["models"] = filesOf(Written::Kind::Model, written, model);
    out["bodies"] = filesOf(Written::Kind::Body, written, model);
    out["pictures"] = filesOf(Written::Kind::Picture, written, model);
    out["others"] = filesOf(Written::Kind::Other, written, model);
    out["model"] = firstFile(written, model, [](const Written& w) { return w.kind == Written::Kind::Model; });
    out["body"] = firstFile(written, model, [](const Written& w) { return w.kind == Written::Kind::Body; });
    out["cost"] = costData(whole, sheet);
    out["answers"] = json::object();
    out["answered"] = json::object();
    for (const platform::Ask& ask : sheet.files.asks) {
        const std::string& answer = answers.at(ask.name);
        out["answers"][ask.name] = answer;
        for (const std::string& option : ask.options) out["answered"][ask.name][option] = option == answer;
    }
    return out;
}

} // namespace zl::deliver
