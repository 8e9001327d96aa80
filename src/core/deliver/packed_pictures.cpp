#include "core/deliver/packed_pictures.h"

#include "core/base/units.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/pack_channels.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_memory.h"
#include "core/texture/worn_look.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace zl::deliver {

namespace {

using platform::ChannelSource;
using texture::PackedChannel;
using texture::PixelKind;

/// What a role without a picture is: as it would be kept in a picture.
glm::vec3 plainValue(PictureRole role, const Material& m) {
    const auto kept = [](const glm::vec3& light) {
        glm::vec3 out;
        for (int k = 0; k < 3; ++k) out[k] = texture::toSrgb(std::clamp(light[k], 0.0f, 1.0f));
        return out;
    };
    switch (role) {
    case PictureRole::Colour:
        return kept(glm::vec3(m.baseColour));
    case PictureRole::Emission:
        return kept(m.emission);
    case PictureRole::Normal:
        return {0.5f, 0.5f, 1};
    case PictureRole::Opacity:
        return glm::vec3(m.baseColour.a);
    case PictureRole::Height:
        return glm::vec3(0.5f);
    case PictureRole::Roughness:
        return glm::vec3(m.roughness);
    case PictureRole::Gloss:
        return glm::vec3(1 - m.roughness);
    case PictureRole::Metalness:
        return glm::vec3(m.metalness);
    case PictureRole::Specular:
    case PictureRole::Occlusion:
        break;
    }
    return glm::vec3(1);
}

/// What the values of a role's picture are multiplied by, by channel.
float factorOf(PictureRole role, int channel, const Material& m) {
    switch (role) {
    case PictureRole::Colour:
        return m.baseColour[channel];
    case PictureRole::Opacity:
        return m.baseColour.a;
    case PictureRole::Emission:
        return m.emission[channel];
    case PictureRole::Roughness:
        return m.roughness;
    case PictureRole::Metalness:
        return m.metalness;
    default:
        return 1;
    }
}

class Packing {
public:
    Packing(const Material& material, const Model& model) : material_(material), model_(model) {
        apart_ = rolesLyingApart(material_);
        if (apart_.empty()) return;
        look_.emplace(material_, model_);
        material_ = look_->material(); // without what cannot be brought together
    }

    PackedPicture pack(const platform::SheetPicture& picture) {
        std::array<PackedChannel, 4> channels;
        glm::ivec2 size(1);
        for (std::size_t k = 0; k < 4; ++k) {
            const auto& wanted = picture.channels[k];
            channels[k].otherwise = wanted ? float(wanted->constant) : k == 3 ? 1.0f : 0.0f;
            if (!wanted || !wanted->role) continue;
            channels[k] = channelFor(*wanted, k, size);
        }
        size = texture::shrunkTo(size, picture.mostEdge);
        if (!lying_.empty()) look_->decode(size);
        for (const Lying& lying : lying_) channels[lying.channel].from = drawnAnew(lying.role, size);
        PackedPicture out{texture::packedChannels(channels, size), picture.hasAlpha(), {}, {}};
        out.assumed = std::move(assumed_);
        if (look_) out.leftOut = look_->leftOut();
        return out;
    }

private:
    /// A channel whose role lies otherwise than the leading picture.
    struct Lying {
        std::size_t channel;
        PictureRole role;
    };

    PackedChannel channelFor(const ChannelSource& wanted, std::size_t channel, glm::ivec2& size) {
        PictureRole role = *wanted.role;
        bool turned = wanted.turnedOver;
        const PictureRole other = otherSayingOf(role);
        if (!material_.picture(role) && other != role && material_.picture(other))
            role = other, turned = !turned;
        const PictureUse& use = material_.picture(role);
        const int part =
            wanted.part == PictureChannel::Colour ? 0 : int(wanted.part) - int(PictureChannel::Red);
        PackedChannel out;
        out.turnedOver = turned;
        const glm::vec3 plain = plainValue(role, material_);
        out.otherwise = wanted.part != PictureChannel::Colour || isScalar(role)
                            ? plain[part]
                            : (plain.x + plain.y + plain.z) / 3;
        if (!use) {
            assume(role == PictureRole::Normal
                       ? std::string("normal is flat")
                       : fmt::format("{} is {}", textOf(wanted),
                                     showNumber(wanted.turnedOver ? 1 - out.otherwise : out.otherwise, 3)));
            return out;
        }
        out.kind = texture::pixelKindOf(role);
        out.channel = isScalar(role) ? use.channel : wanted.part;
        out.factor = factorOf(role, part, material_);
        const auto& image = model_.images[std::size_t(use.image)];
        size = glm::max(size, glm::ivec2(image->width, image->height));
        if (std::ranges::find(apart_, role) != apart_.end()) {
            lying_.push_back({channel, role});
            if (isScalar(role)) out.channel = PictureChannel::Red;
            if (role != PictureRole::Opacity) out.factor = 1; // the look has it in
            return out;
        }
        pixels_.push_back(texture::pixelsOf(image));
        out.from = pixels_.back().get();
        return out;
    }

    void assume(std::string what) {
        if (std::ranges::find(assumed_, what) == assumed_.end()) assumed_.push_back(std::move(what));
    }

    /// A role's picture as large as `size`, lying as the leading one does.
    const Pixels* drawnAnew(PictureRole role, glm::ivec2 size) {
        auto drawn = std::make_shared<Pixels>(Pixels{size.x, size.y, {}});
        drawn->rgba.resize(std::size_t(4) * std::size_t(size.x) * std::size_t(size.y), 255);
        tbb::parallel_for(0, size.y, [&](int y) {
            for (int x = 0; x < size.x; ++x) {
                const glm::vec2 at((float(x) + 0.5f) / float(size.x), (float(y) + 0.5f) / float(size.y));
                std::uint8_t* target =
                    &drawn->rgba[std::size_t(4) * (std::size_t(y) * std::size_t(size.x) + std::size_t(x))];
                const glm::vec3 value = valueAt(role, at);
                for (int k = 0; k < 3; ++k)
                    target[k] = isColour(role) ? texture::toSrgbByte(value[k]) : texture::toByte(value[k]);
            }
        });
        pixels_.push_back(std::move(drawn));
        return pixels_.back().get();
    }
    glm::vec3 valueAt(PictureRole role, glm::vec2 at) const {
        switch (role) {
        case PictureRole::Colour:
            return look_->colour(at);
        case PictureRole::Emission:
            return look_->emission(at);
        case PictureRole::Specular:
            return look_->specular(at);
        case PictureRole::Normal:
            return look_->normal(at);
        default:
            return glm::vec3(look_->number(role, at));
        }
    }

    Material material_;
    const Model& model_;
    std::vector<std::string> assumed_;
    std::vector<std::shared_ptr<const Pixels>> pixels_;
    std::vector<PictureRole> apart_; ///< that lie otherwise than the leading one
    std::vector<Lying> lying_;
    std::optional<texture::WornLook> look_;
};

} // namespace

PackedPicture packedFor(const platform::SheetPicture& picture, const Material& material, const Model& model) {
    return Packing(material, model).pack(picture);
}

} // namespace zl::deliver
