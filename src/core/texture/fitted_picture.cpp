#include "core/texture/fitted_picture.h"

#include "core/texture/resized.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace zl::texture {

namespace {

/// Larger ones are compared at this size: what is lost of them is lost already there.
constexpr int mostCompared = 256;

Pixels atMost(const Pixels& pixels, int edge) {
    const double shrink = std::min(1.0, double(edge) / std::max(pixels.width, pixels.height));
    const auto side = [&](int length) { return std::max(1, int(length * shrink + 0.5)); };
    return resized(pixels, side(pixels.width), side(pixels.height), PixelKind::Colours);
}

double differenceOf(const Pixels& source, const Pixels& held) {
    const Pixels shown = resized(held, source.width, source.height, PixelKind::Colours);
    double sum = 0;
    for (std::size_t k = 0; k < source.rgba.size(); k += 4) {
        const double seen = std::max(source.rgba[k + 3], shown.rgba[k + 3]) / 255.0;
        for (std::size_t c = 0; c < 3; ++c)
            sum += seen * std::pow(double(source.rgba[k + c]) - shown.rgba[k + c], 2);
        sum += std::pow(double(source.rgba[k + 3]) - shown.rgba[k + 3], 2);
    }
    return std::sqrt(sum / double(source.rgba.size()));
}

SmallChoice made(const Pixels& source, SmallFormat format, int width, int height, bool dithered) {
    SmallChoice out{format, width,
                    height, bytesHeld(format, width, height),
                    0,      asHeld(resized(source, width, height, PixelKind::Colours), format, dithered)};
    out.error = differenceOf(source, out.pixels);
    return out;
}

int powerBelow(int length) {
    return int(std::bit_floor(unsigned(std::max(1, length))));
}

} // namespace

std::vector<SmallChoice> smallChoices(const Pixels& pixels, std::size_t most, bool dithered,
                                      const Progress& progress) {
    const Pixels source = atMost(pixels, mostCompared);
    std::vector<SmallChoice> out;
    for (const SmallFormatInfo& info : allSmallFormats()) {
        progress.checkCancel();
        int width = powerBelow(pixels.width), height = powerBelow(pixels.height);
        while (bytesHeld(info.format, width, height) > most && std::max(width, height) > 4)
            width = std::max(4, width / 2), height = std::max(4, height / 2);
        if (bytesHeld(info.format, width, height) <= most)
            out.push_back(made(source, info.format, width, height, dithered));
    }
    std::ranges::stable_sort(out, {}, &SmallChoice::error);
    return out;
}

SmallChoice smallChoice(const Pixels& pixels, SmallFormat format, int edge, bool dithered) {
    const double shrink = double(edge) / std::max(pixels.width, pixels.height);
    const auto side = [&](int length) { return std::max(1, powerBelow(int(length * shrink + 0.5))); };
    return made(atMost(pixels, mostCompared), format, side(pixels.width), side(pixels.height), dithered);
}

} // namespace zl::texture
