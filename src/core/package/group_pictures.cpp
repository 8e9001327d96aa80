#include "core/package/group_pictures.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/formats/row_mesh.h"
#include "core/package/references.h"

#include <algorithm>

namespace zl::package {

namespace {

/// The reference of a material to its colour picture; nothing where it has none.
std::optional<Reference> colourOf(const Resource& material) {
    const auto json = parsedJson(*material.bytes);
    if (!json.is_object()) throw Error("is a broken material", material.name, "Take it from the original.");
    const auto pictures = json.find("pictures");
    if (pictures == json.end() || !pictures->is_object()) return std::nullopt;
    const auto colour = pictures->find("colour");
    if (colour == pictures->end() || !colour->is_string()) return std::nullopt;
    const std::string said = '"' + colour->get<std::string>() + '"';
    for (const Reference& reference : referencesIn(material)) {
        if (reference.at == 0) continue;
        const auto text = std::string_view(*material.bytes).substr(reference.at - 1, reference.size + 2);
        // Another role may name the same picture; the one behind the word is meant.
        const auto word = std::string_view(*material.bytes).substr(0, reference.at).rfind("\"colour\"");
        if (text == said && word != std::string_view::npos &&
            std::string_view(*material.bytes).substr(word, reference.at - word).find(',') == std::string_view::npos)
            return reference;
    }
    return std::nullopt;
}

std::optional<std::size_t> placeOf(const Package& package, const ResourceKey& key) {
    const auto found = std::ranges::find(package.resources, key, &Resource::key);
    if (found == package.resources.end()) return std::nullopt;
    return std::size_t(found - package.resources.begin());
}

std::optional<std::size_t> placeOf(const Package& package, const Reference& reference) {
    if (reference.key) return placeOf(package, *reference.key);
    for (std::size_t i = 0; i < package.resources.size(); ++i)
        if (package.resources[i].key.kind == reference.kind && package.resources[i].name == reference.name) return i;
    return std::nullopt;
}

} // namespace

std::vector<WornGroup> wornGroups(const Package& package, const Resource& geometry) {
    std::vector<WornGroup> out;
    for (const formats::RowGroup& group : formats::rowMeshHead(*geometry.bytes, geometry.name).groups) {
        WornGroup worn{group.name, placeOf(package, group.material), std::nullopt};
        if (worn.material)
            if (const auto reference = colourOf(package.resources[*worn.material]))
                worn.colour = placeOf(package, *reference);
        out.push_back(std::move(worn));
    }
    return out;
}

std::string withColour(const Resource& material, const ResourceKey& picture) {
    if (const auto reference = colourOf(material)) {
        std::string bytes = *material.bytes;
        return bytes.replace(reference->at, reference->size, textOf(picture));
    }
    auto json = nlohmann::ordered_json::parse(*material.bytes, nullptr, false);
    if (!json.is_object()) throw Error("is a broken material", material.name, "Take it from the original.");
    if (!json["pictures"].is_object()) json["pictures"] = nlohmann::ordered_json::object();
    json["pictures"]["colour"] = textOf(picture);
    return jsonText(json, 2) + "\n";
}

} // namespace zl::package
