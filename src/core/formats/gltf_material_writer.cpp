#include "core/formats/gltf_material_writer.h"

#include "core/formats/kept_extensions.h"

#include "core/formats/material_settings.h"
#include "core/texture/pack_channels.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

namespace zl::formats {

namespace {

double unit(float value) {
    return std::clamp(double(value), 0.0, 1.0);
}

int wrapOf(Beyond beyond) {
    switch (beyond) {
    case Beyond::Clamp:
        return TINYGLTF_TEXTURE_WRAP_CLAMP_TO_EDGE;
    case Beyond::Mirror:
        return TINYGLTF_TEXTURE_WRAP_MIRRORED_REPEAT;
    case Beyond::Repeat:
        break;
    }
    return TINYGLTF_TEXTURE_WRAP_REPEAT;
}

/// Decoded pictures of one packing, each once.
class Decoded {
public:
    explicit Decoded(const Model& model) : model_(model) {}
    const Pixels* of(const PictureUse& use) {
        if (!use) return nullptr;
        const auto [entry, fresh] = pixels_.try_emplace(use.image);
        if (fresh) entry->second = texture::pixelsOf(model_.images[use.image]);
        return entry->second.get();
    }

private:
    const Model& model_;
    std::map<int, std::shared_ptr<const Pixels>> pixels_;
};

} // namespace

void GltfMaterialWriter::write(std::vector<std::string>* dropped) {
    dropped_ = dropped;
    for (const Material& material : model_.materials) writeMaterial(material);
}

void GltfMaterialWriter::say(const Material& material, PictureRole role, const std::string& why) {
    if (dropped_)
        dropped_->push_back(fmt::format("the {} picture of \"{}\"{}", roleName(role), material.name, why));
}

void GltfMaterialWriter::writeMaterial(const Material& m) {
    tinygltf::Material target;
    target.name = m.name;
    auto& pbr = target.pbrMetallicRoughness;
    pbr.baseColorFactor = {unit(m.baseColour.r), unit(m.baseColour.g), unit(m.baseColour.b),
                           unit(m.baseColour.a)};
    const bool gloss = m.picture(PictureRole::Gloss) && !m.picture(PictureRole::Roughness);
    pbr.metallicFactor = unit(m.metalness);
    pbr.roughnessFactor = gloss ? 1 : unit(m.roughness);
    point(pbr.baseColorTexture, colour(m));
    point(pbr.metallicRoughnessTexture, metalRough(m));
    point(target.normalTexture, plain(m, PictureRole::Normal));
    point(target.occlusionTexture, occlusion(m));
    point(target.emissiveTexture, plain(m, PictureRole::Emission));
    for (const PictureRole role : {PictureRole::Height, PictureRole::Specular})
        if (m.picture(role)) say(m, role);
    target.emissiveFactor = {unit(m.emission.r), unit(m.emission.g), unit(m.emission.b)};
    target.doubleSided = m.doubleSided;
    const bool seeThrough =
        m.alpha == Material::Alpha::Blend || (m.alpha == Material::Alpha::Opaque && m.baseColour.a < 1);
    target.alphaMode = seeThrough ? "BLEND" : m.alpha == Material::Alpha::Mask ? "MASK" : "OPAQUE";
    target.alphaCutoff = m.alphaCutoff;
    if (!m.settings.empty()) target.extras = settingsValue(m.settings);
    if (m.kept)
        putKept(*m.kept, target.extensions, out_.extensionsUsed,
                [&](const std::shared_ptr<const Image>& picture) { return texture(picture); });
    out_.materials.push_back(target);
}

GltfMaterialWriter::Placed GltfMaterialWriter::plain(const Material& material, PictureRole role) const {
    const PictureUse& use = material.picture(role);
    if (!use) return {};
    return {model_.images[use.image], use};
}

GltfMaterialWriter::Placed GltfMaterialWriter::colour(const Material& m) {
    const PictureUse &colour = m.picture(PictureRole::Colour), &opacity = m.picture(PictureRole::Opacity);
    const bool together =
        opacity.image == colour.image && opacity.channel == PictureChannel::Alpha && opacity.liesAs(colour);
    if (!opacity || together) return plain(m, PictureRole::Colour);
    if (colour && !opacity.liesAs(colour)) {
        say(m, PictureRole::Opacity, ", which lies on other UVs than its colour picture");
        return plain(m, PictureRole::Colour);
    }
    auto& made = made_[fmt::format("opacity {} {} {}", colour.image, opacity.image, int(opacity.channel))];
    if (!made) {
        Decoded pictures(model_);
        const Pixels* from = pictures.of(colour);
        made =
            texture::pictureFromPixels(fmt::format("{}-colour.png", m.name),
                                       texture::packedChannels({{{from, PictureChannel::Red},
                                                                 {from, PictureChannel::Green},
                                                                 {from, PictureChannel::Blue},
                                                                 {pictures.of(opacity), opacity.channel}}}),
                                       true);
    }
    return {made, colour ? colour : opacity};
}

GltfMaterialWriter::Placed GltfMaterialWriter::metalRough(const Material& m) {
    PictureUse rough = m.picture(PictureRole::Roughness), metal = m.picture(PictureRole::Metalness);
    const PictureUse& gloss = m.picture(PictureRole::Gloss);
    const bool turned = gloss && !rough;
    if (turned) rough = gloss;
    if (gloss && !turned) say(m, PictureRole::Gloss, ", which has a roughness picture too");
    if (!rough && !metal) return {};
    if (rough && metal && !rough.liesAs(metal)) {
        say(m, PictureRole::Metalness, ", which lies on other UVs than its roughness picture");
        metal = {};
    }
    const bool inPlace = !turned && rough.channel == PictureChannel::Green && rough.image == metal.image &&
                         metal.channel == PictureChannel::Blue;
    if (inPlace) return {model_.images[rough.image], rough};
    auto& made = made_[fmt::format("metal-rough {} {} {} {} {}", rough.image, int(rough.channel), metal.image,
                                   int(metal.channel), turned)];
    if (!made) {
        Decoded pictures(model_);
        made =
            texture::pictureFromPixels(fmt::format("{}-metal-rough.png", m.name),
                                       texture::packedChannels({{{nullptr},
                                                                 {pictures.of(rough), rough.channel, turned},
                                                                 {pictures.of(metal), metal.channel},
                                                                 {nullptr}}}),
                                       false);
    }
    return {made, rough ? rough : metal};
}

GltfMaterialWriter::Placed GltfMaterialWriter::occlusion(const Material& m) {
    const PictureUse& use = m.picture(PictureRole::Occlusion);
    // A grey picture's red is its mean.
    if (!use || use.channel == PictureChannel::Red ||
        (use.channel == PictureChannel::Colour && model_.images[use.image]->channels < 3))
        return plain(m, PictureRole::Occlusion);
    auto& made = made_[fmt::format("occlusion {} {}", use.image, int(use.channel))];
    if (!made) {
        Decoded pictures(model_);
        const texture::PackedChannel grey{pictures.of(use), use.channel};
        made = texture::pictureFromPixels(fmt::format("{}-occlusion.png", m.name),
                                          texture::packedChannels({grey, grey, grey, {}}), false);
    }
    return {made, use};
}

int GltfMaterialWriter::image(const std::shared_ptr<const Image>& picture) {
    const auto [entry, fresh] = images_.try_emplace(picture, int(out_.images.size()));
    if (!fresh) return entry->second;
    tinygltf::Image target;
    target.name = std::filesystem::path(picture->name).stem().string();
    if (picture->format == "png" || picture->format == "jpeg") { // glTF takes only these two
        target.mimeType = texture::pictureFormat(picture->format).mime;
        putBytes_(target, *texture::encodedOf(picture));
    } else {
        target.mimeType = "image/png";
        putBytes_(target, texture::encodePng(*texture::pixelsOf(picture)));
    }
    out_.images.push_back(target);
    return entry->second;
}

int GltfMaterialWriter::sampler(const Sampler& sampler) {
    if (sampler == Sampler{}) return -1; // what a file without samplers means
    const auto known = std::ranges::find(samplers_, sampler);
    if (known != samplers_.end()) return int(known - samplers_.begin());
    tinygltf::Sampler target;
    target.wrapS = wrapOf(sampler.across), target.wrapT = wrapOf(sampler.down);
    if (!sampler.smooth)
        target.magFilter = TINYGLTF_TEXTURE_FILTER_NEAREST,
        target.minFilter = TINYGLTF_TEXTURE_FILTER_NEAREST;
    out_.samplers.push_back(target);
    samplers_.push_back(sampler);
    return int(samplers_.size()) - 1;
}

int GltfMaterialWriter::texture(const std::shared_ptr<const Image>& picture, const Sampler& as) {
    const std::pair<int, int> key{image(picture), sampler(as)};
    const auto [entry, fresh] = textures_.try_emplace(key, int(out_.textures.size()));
    if (fresh) {
        tinygltf::Texture made;
        made.source = key.first, made.sampler = key.second;
        out_.textures.push_back(made);
    }
    return entry->second;
}

void GltfMaterialWriter::point(auto& info, const Placed& picture) {
    if (!picture.image) return;
    info.index = texture(picture.image, picture.use.sampler);
    info.texCoord = picture.use.uvSet;
    const UvPlacement& lie = picture.use.placement;
    if (lie.isPlain()) return;
    using Value = tinygltf::Value;
    const auto pair = [](const glm::vec2& v) {
        return Value(Value::Array{Value(double(v.x)), Value(double(v.y))});
    };
    info.extensions["KHR_texture_transform"] = Value(Value::Object{
        {"offset", pair(lie.offset)}, {"rotation", Value(double(lie.turn))}, {"scale", pair(lie.scale)}});
    auto& used = out_.extensionsUsed;
    if (std::ranges::find(used, "KHR_texture_transform") == used.end())
        used.emplace_back("KHR_texture_transform");
}

} // namespace zl::formats
