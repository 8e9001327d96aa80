#include "core/steps/relief.h"

#include "core/base/pattern.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/uv/raster.h"
#include "core/uv/relief.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::steps {

namespace {

/// How much of a height picture's relief stays at each pixel.
class Faded {
public:
    Faded(int width, int height)
        : size_(width, height), curved_(std::size_t(width) * std::size_t(height), 0), flat_(curved_) {}

    /// Marks what a triangle covers of the picture, which repeats.
    void lay(const std::array<glm::vec2, 3>& uv, bool curves) {
        std::array<glm::dvec2, 3> at;
        glm::dvec2 least(1e300);
        for (std::size_t k = 0; k < 3; ++k) at[k] = glm::dvec2(uv[k]), least = glm::min(least, at[k]);
        for (glm::dvec2& corner : at) corner = (corner - glm::floor(least)) * glm::dvec2(size_);
        std::vector<char>& marks = curves ? curved_ : flat_;
        uv::forEachRow(at, {{0, 0}, 4 * size_}, [&](int row, int from, int to) {
            for (int x = from; x < std::min(to, from + size_.x); ++x)
                marks[std::size_t(row % size_.y) * std::size_t(size_.x) + std::size_t(x % size_.x)] = 1;
        });
    }
    bool isCurved(std::size_t pixel) const { return curved_[pixel] != 0; }
    /// Pixels that both curved and flat faces show.
    double sharedShare() const {
        std::size_t both = 0, curved = 0;
        for (std::size_t i = 0; i < curved_.size(); ++i) curved += curved_[i], both += curved_[i] & flat_[i];
        return curved > 0 ? double(both) / double(curved) : 0;
    }

private:
    glm::ivec2 size_;
    std::vector<char> curved_, flat_;
};

/// The picture with the channel's distance from its mean made `strength` times as large, `left` of that where
/// it is faded. Red, green and blue together where the channel is all of them.
Pixels changed(const Pixels& pixels, PictureChannel channel, double mean, double strength, double left,
               const Faded* faded) {
    Pixels out = pixels;
    const std::size_t first = channel == PictureChannel::Colour ? 0 : std::size_t(channel) - 1;
    const std::size_t last = channel == PictureChannel::Colour ? 3 : first + 1;
    for (std::size_t i = 0; i < out.rgba.size() / 4; ++i) {
        const double by = strength * (faded && faded->isCurved(i) ? left : 1);
        for (std::size_t k = first; k < last; ++k) {
            std::uint8_t& byte = out.rgba[4 * i + k];
            byte = texture::toByte(float((mean + (byte - mean) * by) / 255));
        }
    }
    return out;
}

} // namespace

Model ReliefStrength::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(of.patterns);
    Model out = in;
    const uv::UvFaces faces = uv::uvFaces(in);
    const double before = uv::reliefOf(in, faces, bend).onCurves;
    std::map<std::pair<int, PictureChannel>, int> made;
    const auto meant = [&](int m) {
        return m >= 0 && wanted.match(in.materials[std::size_t(m)].name) &&
               in.materials[std::size_t(m)].picture(PictureRole::Height);
    };
    std::map<int, Faded> marks; // by picture
    if (fade) {
        const auto world = worldMatrices(in);
        std::vector<float> bends;
        int bendsOf = -1;
        for (const uv::UvFace& face : faces.faces) {
            if (!meant(face.material)) continue;
            const int image = in.materials[std::size_t(face.material)].image(PictureRole::Height);
            const Image& picture = *in.images[std::size_t(image)];
            if (bendsOf != face.node) {
                const Node& node = in.nodes[std::size_t(face.node)];
                bends = uv::bendOf(*in.meshes[std::size_t(node.mesh)], world[std::size_t(face.node)]);
                bendsOf = face.node;
            }
            marks.try_emplace(image, picture.width, picture.height)
                .first->second.lay(face.at, bends[face.triangle] >= bend);
        }
    }
    for (std::size_t m = 0; m < out.materials.size(); ++m) {
        if (!meant(int(m))) continue;
        context.progress.report(double(m) / double(out.materials.size()), "changing heights");
        PictureUse& use = out.materials[m].picture(PictureRole::Height);
        const auto [entry, fresh] = made.try_emplace({use.image, use.channel}, int(out.images.size()));
        if (fresh) {
            const auto& image = in.images[std::size_t(use.image)];
            const double mean = texture::channelFactsOf(image)->of(use.channel).mean;
            const auto faded = marks.find(use.image);
            const Faded* where = faded == marks.end() ? nullptr : &faded->second;
            out.images.push_back(texture::pictureFromPixels(
                image->name, changed(*texture::pixelsOf(image), use.channel, mean, strength, left, where),
                image->hasAlpha()));
            if (where && where->sharedShare() > 0.01)
                context.fellShort(fmt::format("{} % of what fades in \"{}\" is worn by flat faces too",
                                              showNumber(100 * where->sharedShare(), 0), image->name));
        }
        use.image = entry->second;
    }
    if (made.empty()) {
        context.note("no such material has a height picture");
        return in;
    }
    const double after = uv::reliefOf(out, faces, bend).onCurves;
    context.note(fmt::format("relief on curves {} → {} % of all", showNumber(100 * before, 0),
                             showNumber(100 * after, 0)));
    context.facts["on-curves"] = {{"before", before}, {"after", after}};
    return out;
}

} // namespace zl::steps
