#include "core/formats/row_material.h"

#include "core/formats/picture_beside.h"

#include "core/base/error.h"
#include "core/base/json_text.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace zl::formats {

namespace {

float within01(const nlohmann::json& json, std::string_view key, float fallback) {
    const auto found = json.find(key);
    if (found == json.end() || !found->is_number()) return fallback;
    return std::clamp(found->get<float>(), 0.0f, 1.0f);
}

} // namespace

int RowMaterials::use(const std::string& key, const std::string& name) {
    if (const auto known = used_.find(key + '\n' + name); known != used_.end()) return known->second;
    Material material;
    material.name = name;
    const auto file = key.empty() ? std::nullopt : source_.beside(key);
    const nlohmann::json json = file ? parsedJson(source_.bytes(*file).text()) : nlohmann::json();
    if (!key.empty() && !json.is_object())
        model_.warnings.push_back(fmt::format("the material \"{}\" ({}) is {}; it is shown plain", name, key,
                                              file ? "broken" : "not in the package"));
    if (json.is_object()) {
        if (const auto called = json.find("name"); called != json.end() && called->is_string())
            material.name = called->get<std::string>();
        if (const auto colour = json.find("colour");
            colour != json.end() && colour->is_array() && colour->size() == 4)
            for (int k = 0; k < 4; ++k)
                if ((*colour)[std::size_t(k)].is_number())
                    material.baseColour[k] = std::clamp((*colour)[std::size_t(k)].get<float>(), 0.0f, 1.0f);
        material.roughness = within01(json, "roughness", material.roughness);
        material.metalness = within01(json, "metalness", material.metalness);
        if (const auto sides = json.find("doubleSided"); sides != json.end())
            material.doubleSided = *sides == true;
        if (const auto pictures = json.find("pictures"); pictures != json.end() && pictures->is_object())
            for (const PictureRole role : allPictureRoles)
                if (const auto named = pictures->find(roleName(role));
                    named != pictures->end() && named->is_string())
                    material.picture(role).image = picture(named->get<std::string>());
    }
    model_.materials.push_back(std::move(material));
    return used_[key + '\n' + name] = int(model_.materials.size()) - 1;
}

int RowMaterials::picture(const std::string& key) {
    if (const auto known = pictures_.find(key); known != pictures_.end()) return known->second;
    int index = -1;
    try {
        if (const auto file = source_.beside(key)) {
            model_.images.push_back(pictureBeside(source_, *file));
            index = int(model_.images.size()) - 1;
        } else {
            model_.warnings.push_back(fmt::format("the picture {} is not in the package", key));
        }
    } catch (const Error& error) {
        model_.warnings.push_back("the picture " + error.sentence());
    }
    return pictures_[key] = index;
}

std::string rowMaterialText(const Material& material,
                            const std::array<std::string, pictureRoles>& pictureKeys) {
    const glm::vec4& colour = material.baseColour;
    nlohmann::ordered_json json{{"name", material.name},
                                {"colour", {colour.r, colour.g, colour.b, colour.a}},
                                {"roughness", material.roughness},
                                {"metalness", material.metalness},
                                {"doubleSided", material.doubleSided},
                                {"pictures", nlohmann::ordered_json::object()}};
    for (const PictureRole role : allPictureRoles)
        if (!pictureKeys[std::size_t(role)].empty())
            json["pictures"][std::string(roleName(role))] = pictureKeys[std::size_t(role)];
    return jsonText(json, 2) + "\n";
}

} // namespace zl::formats
