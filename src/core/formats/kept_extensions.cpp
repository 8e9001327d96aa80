#include "core/formats/kept_extensions.h"

#include "core/formats/gltf_json.h"

#include <algorithm>
#include <array>

namespace zl::formats {

namespace {

using Json = nlohmann::json;

/// Calls for every object under a key that ends in "Texture" and has an index; it goes where `keeps` says no.
void eachTexture(Json& json, const std::function<bool(Json&)>& keeps) {
    std::vector<Json*> open{&json};
    while (!open.empty()) {
        Json& at = *open.back();
        open.pop_back();
        if (at.is_array())
            for (Json& one : at) open.push_back(&one);
        if (!at.is_object()) continue;
        std::vector<std::string> gone;
        for (auto entry = at.begin(); entry != at.end(); ++entry)
            if (!entry.key().ends_with("Texture") || !entry->is_object() || !entry->contains("index"))
                open.push_back(&*entry);
            else if (!keeps(*entry))
                gone.push_back(entry.key());
        for (const std::string& key : gone) at.erase(key);
    }
}

} // namespace

bool isUnderstood(std::string_view extension) {
    static constexpr std::array<std::string_view, 7> known{
        "KHR_texture_transform", "KHR_mesh_quantization", "KHR_lights_punctual", "VRM", "VRMC_vrm",
        "VRMC_springBone",       "VRMC_node_constraint"};
    return std::ranges::find(known, extension) != known.end();
}

std::shared_ptr<const KeptExtensions>
keptOf(const tinygltf::ExtensionMap& extensions,
       const std::function<std::shared_ptr<const Image>(int texture)>& picture) {
    auto out = std::make_shared<KeptExtensions>();
    for (const auto& [name, value] : extensions)
        if (!isUnderstood(name)) out->byName[name] = jsonOf(value);
    if (out->byName.empty()) return nullptr;
    eachTexture(out->byName, [&](Json& info) {
        const auto image = picture(indexIn(info, "index"));
        if (!image) return false;
        info["index"] = out->pictures.size();
        out->pictures.push_back(image);
        return true;
    });
    return out;
}

void putKept(const KeptExtensions& kept, tinygltf::ExtensionMap& to, std::vector<std::string>& used,
             const std::function<int(const std::shared_ptr<const Image>&)>& texture) {
    Json all = kept.byName;
    eachTexture(all, [&](Json& info) {
        info["index"] = texture(kept.pictures[std::size_t(indexIn(info, "index"))]);
        return true;
    });
    for (const auto& [name, json] : all.items()) {
        to[name] = valueOf(json);
        if (std::ranges::find(used, name) == used.end()) used.push_back(name);
    }
}

} // namespace zl::formats
