#include "core/formats/gltf_materials.h"

#include "core/formats/material_settings.h"

#include <algorithm>
#include <cmath>

namespace zl::formats {

namespace {

template <class TextureInfo>
void readPlacement(const TextureInfo& info, PictureUse& use) {
    use.uvSet = std::max(0, info.texCoord);
    const auto found = info.extensions.find("KHR_texture_transform");
    if (found == info.extensions.end() || !found->second.IsObject()) return;
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
    pair("offset", use.placement.offset);
    pair("scale", use.placement.scale);
    if (says.Has("rotation")) number(says.Get("rotation"), use.placement.turn);
    if (says.Has("texCoord") && says.Get("texCoord").IsInt())
        use.uvSet = std::max(0, says.Get("texCoord").GetNumberAsInt());
}

Sampler samplerOf(const tinygltf::Model& source, int texture) {
    Sampler out;
    if (texture < 0 || texture >= int(source.textures.size())) return out;
    const int index = source.textures[std::size_t(texture)].sampler;
    if (index < 0 || index >= int(source.samplers.size())) return out;
    const tinygltf::Sampler& from = source.samplers[std::size_t(index)];
    const auto beyond = [](int wrap) {
        return wrap == TINYGLTF_TEXTURE_WRAP_CLAMP_TO_EDGE     ? Beyond::Clamp
               : wrap == TINYGLTF_TEXTURE_WRAP_MIRRORED_REPEAT ? Beyond::Mirror
                                                               : Beyond::Repeat;
    };
    out.across = beyond(from.wrapS), out.down = beyond(from.wrapT);
    out.smooth = from.magFilter != TINYGLTF_TEXTURE_FILTER_NEAREST;
    return out;
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
    material.settings = settingsIn(from.extras);
}

} // namespace

std::vector<Material> readGltfMaterials(const tinygltf::Model& source,
                                        const std::vector<std::shared_ptr<const Image>>& images,
                                        const std::function<int(int)>& pictureOf) {
    std::vector<Material> out;
    for (const tinygltf::Material& from : source.materials) {
        Material& material = out.emplace_back();
        readPlain(from, material);
        const auto wears = [&](PictureRole role, const auto& info,
                               PictureChannel channel = PictureChannel::Colour) {
            PictureUse& use = material.picture(role);
            use.image = pictureOf(info.index);
            if (!use) return;
            use.channel = channel;
            use.sampler = samplerOf(source, info.index);
            readPlacement(info, use);
        };
        const auto& pbr = from.pbrMetallicRoughness;
        wears(PictureRole::Colour, pbr.baseColorTexture);
        wears(PictureRole::Normal, from.normalTexture);
        wears(PictureRole::Roughness, pbr.metallicRoughnessTexture, PictureChannel::Green);
        wears(PictureRole::Metalness, pbr.metallicRoughnessTexture, PictureChannel::Blue);
        wears(PictureRole::Occlusion, from.occlusionTexture, PictureChannel::Red);
        wears(PictureRole::Emission, from.emissiveTexture);
        const PictureUse& colour = material.picture(PictureRole::Colour);
        if (colour && material.alpha != Material::Alpha::Opaque && images[colour.image]->channels % 2 == 0) {
            material.picture(PictureRole::Opacity) = colour;
            material.picture(PictureRole::Opacity).channel = PictureChannel::Alpha;
        }
    }
    return out;
}

} // namespace zl::formats
