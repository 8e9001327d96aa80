#include "standins/site/pack.h"

#include "standins/site/glb_file.h"
#include "standins/world/obj_file.h"

#include "core/base/letters.h"
#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

namespace fs = std::filesystem;

namespace zl::standins::site {

namespace {

using Kind = Message::Kind;
using world::Files;

// The site's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostObjects = 64, mostTriangles = 16000, mostMaterials = 1;
constexpr int mostEdge = 1024;
constexpr float unitsPerMetre = 4; // a GLB is in metres by its standard; the site's unit is a quarter of one

void judge(PackObject& object, std::size_t objects, std::size_t nodes, std::size_t materials,
           bool transform) {
    if (objects != 1)
        object.refusal = fmt::format("{} objects in one file; the site takes one a file", objects);
    else if (nodes != 1)
        object.refusal = "a node is wrapped around the object; the site takes it for the object";
    else if (transform)
        object.refusal = "the object carries a transform, which the site drops";
    else if (object.triangles == 0)
        object.refusal = "there are no triangles in it";
    else if (object.triangles > mostTriangles)
        object.refusal = fmt::format("{} triangles; {}", showNumber(double(object.triangles), 0),
                                     world::over(double(object.triangles), mostTriangles));
    else if (materials > mostMaterials)
        object.refusal =
            fmt::format("{} materials; {}", materials, world::over(double(materials), mostMaterials));
}

PackObject readObject(Files& files, const std::string& name, const std::string& file, bool asObj) {
    PackObject object;
    object.item.name = name;
    object.file = file;
    if (asObj) {
        const fs::path path = files.path(file);
        if (path.empty()) {
            object.refusal = "its file is missing";
            return object;
        }
        world::ObjFile obj = world::readObjFile(path);
        if (!obj.problem.empty()) {
            object.refusal = "the file " + obj.problem;
            return object;
        }
        object.triangles = obj.triangles;
        object.item.shape = std::move(obj.shape); // an OBJ has no unit: its numbers are taken as the site's
        judge(object, obj.objects, 1, obj.materials, false);
        return object;
    }
    const auto bytes = files.bytes(file);
    if (!bytes) {
        object.refusal = "its file is missing";
        return object;
    }
    GlbFile glb = readGlbFile(*bytes);
    if (!glb.problem.empty()) {
        object.refusal = "the file cannot be read: " + glb.problem;
        return object;
    }
    object.triangles = glb.shape.indices.size() / 3;
    object.item.colour = glb.colour;
    object.item.shape = std::move(glb.shape);
    for (glm::vec3& p : object.item.shape.positions) p *= unitsPerMetre;
    judge(object, glb.meshNodes, glb.nodes, glb.materials, glb.carriesTransform);
    return object;
}

} // namespace

std::size_t Pack::refused() const {
    return std::ranges::count_if(objects,
                                 [](const PackObject& o) { return !o.refusal.empty() || o.pictureMissing; });
}

std::vector<std::string> Pack::missingPictures() const {
    std::set<std::string> names;
    for (const PackObject& object : objects)
        if (object.pictureMissing) names.insert(object.pictureName);
    return {names.begin(), names.end()};
}

std::size_t Pack::linkPictures(TryReport& report) {
    std::size_t linked = 0;
    Files files(folder, report);
    for (PackObject& object : objects) {
        if (!object.pictureMissing) continue;
        const std::string wanted = lowerCase(fs::path(object.pictureName).filename().string());
        for (const fs::path& place : {folder / "pictures", folder}) {
            std::error_code error;
            for (const auto& entry : fs::directory_iterator(place, error)) {
                if (!object.pictureMissing || lowerCase(entry.path().filename().string()) != wanted) continue;
                const auto name = entry.path().lexically_relative(folder).generic_string();
                if (auto picture = files.picture(name, mostEdge, false, true)) {
                    object.item.picture = std::move(picture);
                    object.pictureMissing = false;
                    ++linked;
                }
            }
        }
    }
    return linked;
}

std::optional<Pack> loadPack(const fs::path& folder, TryReport& report) {
    Files files(folder, report);
    if (files.refused()) return std::nullopt;
    const auto about = files.description("pack.json", "object-pack", {"name", "files", "credit"});
    if (about.is_null()) return std::nullopt;
    if (!about.contains("objects") || !about["objects"].is_array() || about["objects"].empty()) {
        files.say(Kind::Refused, "pack.json", "It lists no objects", "\"objects\" must be a list");
        return std::nullopt;
    }
    if (about["objects"].size() > mostObjects) {
        files.refuseOver("pack.json", fmt::format("{} objects", about["objects"].size()),
                         double(about["objects"].size()), mostObjects);
        return std::nullopt;
    }
    Pack pack{about["name"], about["credit"], folder, {}};
    std::map<std::string, std::optional<world::Picture>> pictures;
    std::set<std::string> names;
    for (const auto& entry : about["objects"]) {
        const auto text = [&](const char* key) {
            return entry.is_object() && entry.contains(key) && entry[key].is_string()
                       ? entry[key].get<std::string>()
                       : std::string();
        };
        TryReport quiet; // a single object's faults are its own refusal, not the pack's
        Files own(folder, quiet);
        PackObject object = readObject(own, text("name"), text("file"), about["files"] == "obj");
        object.pictureName = text("picture");
        if (object.item.name.empty())
            object.refusal = "it has no name";
        else if (!names.insert(lowerCase(object.item.name)).second && object.refusal.empty())
            object.refusal = "another object has the same name";
        if (object.refusal.empty() && !object.pictureName.empty()) {
            std::error_code error;
            if (!fs::exists(folder / object.pictureName, error)) {
                object.pictureMissing = true;
            } else {
                auto [known, fresh] = pictures.try_emplace(object.pictureName);
                if (fresh) known->second = own.picture(object.pictureName, mostEdge, false, true);
                if (known->second)
                    object.item.picture = known->second;
                else
                    object.refusal = fmt::format("its picture {}: {}", object.pictureName,
                                                 quiet.messages.empty() ? std::string("was refused")
                                                                        : quiet.messages.back().text + ", " +
                                                                              quiet.messages.back().detail);
            }
        }
        world::addMissingNormals(object.item.shape);
        if (object.item.shape.uvs.size() != object.item.shape.positions.size())
            object.item.shape.uvs.assign(object.item.shape.positions.size(), glm::vec2(0));
        pack.objects.push_back(std::move(object));
    }
    return pack;
}

} // namespace zl::standins::site
