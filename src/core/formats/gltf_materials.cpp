#include "core/formats/gltf_materials.h"

#include <fmt/format.h>

#include <array>
#include <cmath>

namespace zl::formats {

namespace {

/// On which UVs a picture lies, and how.
struct Lie {
    int set = 0;
    glm::vec2 offset{0.0f}, scale{1.0f};
    float turn = 0;

    bool operator==(const Lie&) const = default;
};

struct Picture {
    int image = -1;
    Lie lie;
};

template <class TextureInfo>
Lie lieOf(const TextureInfo& info) {
    Lie lie{info.texCoord};
    const auto found = info.extensions.find("KHR_texture_transform");
    if (found == info.extensions.end() || !found->second.IsObject()) return lie;
    const tinygltf::Value& says = found->second;
    const auto number = [](const tinygltf::Value& value, float& target) {
        if (value.IsNumber() && std::isfinite(value.GetNumberAsDouble()))
            target = float(value.GetNumberAsDouble());
    };
    const auto pair = [&](const char* key, glm::vec2& target) {
        if (!says.Has(key) || !says.Get(key).IsArray()) return;
        const tinygltf::Value& list = says.Get(key);
        for (int k = 0; k < 2 && k < int(list.ArrayLen()); ++k) number(list.Get(k), target[k]);
    };
    pair("offset", lie.offset);
    pair("scale", lie.scale);
    if (says.Has("rotation")) number(says.Get("rotation"), lie.turn);
    if (says.Has("texCoord") && says.Get("texCoord").IsInt()) lie.set = says.Get("texCoord").GetNumberAsInt();
    return lie;
}

void readPlain(const tinygltf::Material& from, Material& material) {
    material.name = from.name;
    const auto& pbr = from.pbrMetallicRoughness;
    for (std::size_t k = 0; k < 4 && k < pbr.baseColorFactor.size(); ++k)
        material.baseColour[int(k)] = float(pbr.baseColorFactor[k]);
    for (std::size_t k = 0; k < 3 && k < from.emissiveFactor.size(); ++k)
        material.emission[int(k)] = float(from.emissiveFactor[k]);
    material.metalness = float(pbr.metallicFactor);
    material.roughness = float(pbr.roughnessFactor);
    material.doubleSided = from.doubleSided;
    material.alpha = from.alphaMode == "BLEND"  ? Material::Alpha::Blend
                     : from.alphaMode == "MASK" ? Material::Alpha::Mask
                                                : Material::Alpha::Opaque;
    material.alphaCutoff = float(from.alphaCutoff);
}

} // namespace

GltfMaterials readGltfMaterials(const tinygltf::Model& source, const std::function<int(int)>& pictureOf) {
    GltfMaterials out;
    for (const tinygltf::Material& from : source.materials) {
        Material material;
        readPlain(from, material);
        const auto of = [&](const auto& info) { return Picture{pictureOf(info.index), lieOf(info)}; };
        const auto& pbr = from.pbrMetallicRoughness;
        // In the order of imageSlotsOf.
        const std::array<Picture, 5> pictures{of(pbr.baseColorTexture), of(from.normalTexture),
                                              of(pbr.metallicRoughnessTexture), of(from.occlusionTexture),
                                              of(from.emissiveTexture)};
        constexpr std::array<const char*, 5> words{"colour", "normal", "metal and roughness", "occlusion",
                                                   "emission"};
        const auto first = std::ranges::find_if(pictures, [](const Picture& p) { return p.image >= 0; });
        const Lie lie = first == pictures.end() ? Lie() : first->lie;
        material.uvOffset = lie.offset, material.uvScale = lie.scale, material.uvTurn = lie.turn;
        const auto slots = imageSlotsOf(material);
        for (std::size_t k = 0; k < slots.size(); ++k) {
            *slots[k] = pictures[k].image;
            if (pictures[k].image < 0 || pictures[k].lie == lie) continue;
            *slots[k] = -1;
            out.dropped.push_back(
                fmt::format("the {} picture of \"{}\", which lies on other UVs than its {} picture", words[k],
                            from.name, words[std::size_t(first - pictures.begin())]));
        }
        out.materials.push_back(std::move(material));
        out.uvSets.push_back(lie.set);
    }
    return out;
}

} // namespace zl::formats
