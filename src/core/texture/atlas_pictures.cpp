#include "core/texture/atlas_pictures.h"

#include "core/texture/colour_transfer.h"
#include "core/texture/picture_file.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <cstring>

namespace zl::texture {

namespace {

using Alpha = Material::Alpha;

bool differ(float a, float b) {
    return std::abs(a - b) > 0.005f;
}

/// See-through in fact: a factor below one blends whatever the material says, as the formats have it.
Alpha alphaOf(const Material& m) {
    return m.alpha == Alpha::Opaque && m.baseColour.a < 1 ? Alpha::Blend : m.alpha;
}

/// Several looks' ways of being see-through as one: blending can show a cut-out, and both something opaque.
Alpha jointAlpha(const std::vector<AtlasSource>& sources) {
    Alpha joint = Alpha::Opaque;
    for (const AtlasSource& source : sources) joint = std::max(joint, alphaOf(source.look.material()));
    return joint;
}

/// A look's alpha as the joint material needs it: a cut-out's border lies at a half.
float jointAlphaAt(const Material& m, float alpha, Alpha joint) {
    const Alpha own = alphaOf(m);
    if (own == Alpha::Opaque) return 1;
    if (own == Alpha::Blend) return alpha;
    const float cut = std::clamp(m.alphaCutoff, 0.001f, 0.999f);
    if (joint == Alpha::Blend) return alpha >= cut ? 1.0f : 0.0f;
    return alpha < cut ? 0.5f * alpha / cut : 0.5f + 0.5f * (alpha - cut) / (1 - cut);
}

class Painter {
public:
    Painter(std::vector<AtlasSource>& sources, const AtlasLayout& layout, int padding)
        : sources_(sources), layout_(layout), padding_(padding) {}

    PaintedAtlas paint(bool colourOnly, const std::string& name, const Progress& progress) {
        decide(colourOnly);
        for (std::size_t i = 0; i < sources_.size(); ++i) {
            progress.report(0.8 * double(i) / double(sources_.size()), "painting the atlas");
            AtlasSource& source = sources_[i];
            const AtlasPlace& place = layout_.places[i];
            const glm::dvec2 stretch = source.to - source.from;
            if (source.look.hasPictures())
                source.look.decode({place.width / stretch.x, place.height / stretch.y});
            paintTile(source, place);
            source.look.forget();
            for (const std::string& what : source.look.leftOut()) out_.leftOut.push_back(what);
            if (colourOnly) sayOtherRoles(source.look);
        }
        progress.report(0.8, "packing the atlas");
        finish(colourOnly, name);
        return std::move(out_);
    }

private:
    void sayOtherRoles(const WornLook& look) {
        for (const PictureRole role : allPictureRoles)
            if (role != PictureRole::Colour && role != PictureRole::Opacity && look.shows(role))
                out_.leftOut.push_back(
                    fmt::format("the {} picture of \"{}\"", roleName(role), look.material().name));
    }
    bool anyShows(PictureRole role) const {
        return std::ranges::any_of(sources_, [&](const AtlasSource& s) { return s.look.shows(role); });
    }
    bool anyDiffers(auto&& of) const {
        return std::ranges::any_of(sources_, [&](const AtlasSource& s) {
            return differ(of(s.look.material()), of(sources_[0].look.material()));
        });
    }

    void decide(bool colourOnly) {
        alpha_ = jointAlpha(sources_);
        for (const AtlasSource& source : sources_)
            for (int k = 0; k < 3; ++k) brightest_ = std::max(brightest_, source.look.material().emission[k]);
        const auto make = [&](Pixels& pixels, bool wanted, std::array<std::uint8_t, 4> ground) {
            if (!wanted) return;
            pixels = {layout_.width, layout_.height, {}};
            pixels.rgba.resize(std::size_t(4) * layout_.width * layout_.height);
            for (std::size_t i = 0; i < pixels.rgba.size(); i += 4)
                std::memcpy(&pixels.rgba[i], ground.data(), 4);
        };
        make(colour_, true, {128, 128, 128, 255});
        if (colourOnly) return;
        make(normal_, anyShows(PictureRole::Normal), {128, 128, 255, 255});
        make(surface_,
             anyShows(PictureRole::Roughness) || anyShows(PictureRole::Gloss) ||
                 anyShows(PictureRole::Metalness) || anyShows(PictureRole::Occlusion) ||
                 anyDiffers([](const Material& m) { return m.roughness; }) ||
                 anyDiffers([](const Material& m) { return m.metalness; }),
             {255, 178, 0, 255});
        const auto glows = [](const Material& m) {
            return m.emission.r + 2 * m.emission.g + 4 * m.emission.b;
        };
        make(emission_, anyShows(PictureRole::Emission) || anyDiffers(glows), {0, 0, 0, 255});
        make(height_, anyShows(PictureRole::Height), {128, 128, 128, 255});
        make(specular_, anyShows(PictureRole::Specular), {255, 255, 255, 255});
    }

    void paintTile(const AtlasSource& source, const AtlasPlace& place) {
        const WornLook& look = source.look;
        const glm::dvec2 stretch = source.to - source.from;
        // As many samples a pixel as the picture has pixels there; what is left of its size after halving.
        // Mixing between pixels already takes in a fifth more.
        const glm::dvec2 finest = look.hasPictures() ? look.decodedPixels() * stretch : glm::dvec2(1);
        const glm::ivec2 samples =
            glm::clamp(glm::ivec2(glm::ceil(finest / glm::dvec2(place.width, place.height) - 0.2)),
                       glm::ivec2(1), glm::ivec2(8));
        const glm::dvec2 pixel = stretch / glm::dvec2(place.width, place.height);
        tbb::parallel_for(-padding_, place.height + padding_, [&](int y) {
            for (int x = -padding_; x < place.width + padding_; ++x) {
                Sum sum;
                for (int sy = 0; sy < samples.y; ++sy)
                    for (int sx = 0; sx < samples.x; ++sx) {
                        const glm::dvec2 at(x + (sx + 0.5) / samples.x, y + (sy + 0.5) / samples.y);
                        add(sum, look, glm::vec2(glm::dvec2(source.from) + at * pixel));
                    }
                put(sum, float(samples.x * samples.y),
                    4 * (std::size_t(place.y + y) * layout_.width + std::size_t(place.x + x)));
            }
        });
    }

    /// What the samples of one pixel come to.
    struct Sum {
        glm::vec4 colour{0};
        glm::vec3 normal{0}, surface{0}, emission{0}, specular{0};
        float height = 0;
    };

    void add(Sum& sum, const WornLook& look, glm::vec2 at) const {
        glm::vec4 colour = look.colour(at);
        colour.a = jointAlphaAt(look.material(), colour.a, alpha_);
        sum.colour += colour;
        if (normal_.width > 0) sum.normal += look.normal(at);
        if (surface_.width > 0)
            sum.surface +=
                glm::vec3(look.number(PictureRole::Occlusion, at), look.number(PictureRole::Roughness, at),
                          look.number(PictureRole::Metalness, at));
        if (emission_.width > 0) sum.emission += look.emission(at);
        if (height_.width > 0) sum.height += look.number(PictureRole::Height, at);
        if (specular_.width > 0) sum.specular += look.specular(at);
    }

    void put(const Sum& sum, float count, std::size_t at) {
        const auto numbers = [&](Pixels& pixels, glm::vec3 value) {
            for (int k = 0; k < 3; ++k) pixels.rgba[at + std::size_t(k)] = toByte(value[k] / count);
        };
        const auto colours = [&](Pixels& pixels, glm::vec3 light) {
            for (int k = 0; k < 3; ++k) pixels.rgba[at + std::size_t(k)] = toSrgbByte(light[k] / count);
        };
        colours(colour_, glm::vec3(sum.colour));
        colour_.rgba[at + 3] = toByte(sum.colour.a / count);
        if (normal_.width > 0) numbers(normal_, sum.normal);
        if (surface_.width > 0) numbers(surface_, sum.surface);
        if (emission_.width > 0) colours(emission_, sum.emission / brightest_);
        if (height_.width > 0) numbers(height_, glm::vec3(sum.height));
        if (specular_.width > 0) colours(specular_, sum.specular);
    }

    void wear(const Pixels& pixels, const std::string& file, bool withAlpha,
              std::initializer_list<std::pair<PictureRole, PictureChannel>> roles) {
        if (pixels.width == 0) return;
        for (const auto& [role, channel] : roles)
            out_.material.picture(role) = {.image = int(out_.images.size()), .channel = channel};
        out_.images.push_back(pictureFromPixels(file, pixels, withAlpha));
    }

    /// The mean of a factor over the model's surface.
    float mean(auto&& of) const {
        double sum = 0, area = 0;
        for (const AtlasSource& source : sources_) {
            const double share = std::max(source.area, 1e-30);
            sum += share * double(of(source.look.material())), area += share;
        }
        return float(sum / area);
    }

    void finish(bool colourOnly, const std::string& name) {
        Material& m = out_.material;
        const Material& first = sources_[0].look.material();
        m.name = name;
        m.baseColour = glm::vec4(1);
        m.alpha = alpha_;
        m.doubleSided =
            std::ranges::any_of(sources_, [](const AtlasSource& s) { return s.look.material().doubleSided; });
        m.roughness = mean([](const Material& of) { return of.roughness; });
        m.metalness = mean([](const Material& of) { return of.metalness; });
        m.emission = first.emission;
        using enum PictureChannel;
        const bool seeThrough = alpha_ != Alpha::Opaque;
        wear(colour_, name + ".png", seeThrough, {{PictureRole::Colour, Colour}});
        if (seeThrough) m.picture(PictureRole::Opacity) = {.image = 0, .channel = Alpha};
        if (colourOnly) {
            const bool glow = std::ranges::any_of(
                sources_, [&](const AtlasSource& s) { return s.look.material().emission != first.emission; });
            if (glow) m.emission = glm::vec3(0);
            return;
        }
        wear(normal_, name + "-normal.png", false, {{PictureRole::Normal, Colour}});
        if (surface_.width > 0) m.roughness = m.metalness = 1;
        wear(surface_, name + "-surface.png", false,
             {{PictureRole::Roughness, Green}, {PictureRole::Metalness, Blue}});
        if (surface_.width > 0 && anyShows(PictureRole::Occlusion))
            m.picture(PictureRole::Occlusion) = {.image = m.image(PictureRole::Roughness), .channel = Red};
        if (emission_.width > 0) m.emission = glm::vec3(brightest_);
        wear(emission_, name + "-emission.png", false, {{PictureRole::Emission, Colour}});
        wear(height_, name + "-height.png", false, {{PictureRole::Height, Red}});
        wear(specular_, name + "-specular.png", false, {{PictureRole::Specular, Colour}});
    }

    std::vector<AtlasSource>& sources_;
    const AtlasLayout& layout_;
    const int padding_;
    Material::Alpha alpha_ = Material::Alpha::Opaque;
    float brightest_ = 1; ///< the largest factor of emission, at least 1: a picture holds no more
    Pixels colour_, normal_, surface_, emission_, height_, specular_; ///< of no size where not needed
    PaintedAtlas out_;
};

} // namespace

PaintedAtlas paintAtlas(std::vector<AtlasSource>& sources, const AtlasLayout& layout, int padding,
                        bool colourOnly, const std::string& name, const Progress& progress) {
    return Painter(sources, layout, padding).paint(colourOnly, name, progress);
}

} // namespace zl::texture
