#include "core/learn/file_facts.h"

#include "core/base/error.h"
#include "core/model/image.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

#include <algorithm>
#include <cmath>
#include <mutex>

namespace zl::learn {

namespace {

/// Pixels along an edge that are looked at, at most: more say nothing new, and take their time.
constexpr int mostLookedAlong = 256;

class Looked {
public:
    explicit Looked(const Pixels& pixels)
        : pixels_(pixels), width_(std::min(pixels.width, mostLookedAlong)),
          height_(std::min(pixels.height, mostLookedAlong)) {}

    int width() const { return width_; }
    int height() const { return height_; }
    /// A square out of the middle, pixel for pixel: slopes are between neighbours.
    double at(int x, int y, std::size_t channel) const {
        const int left = (pixels_.width - width_) / 2, top = (pixels_.height - height_) / 2;
        return pixels_.rgba[4 * (std::size_t(top + y) * std::size_t(pixels_.width) + std::size_t(left + x)) +
                            channel] /
               255.0;
    }

private:
    const Pixels& pixels_;
    int width_, height_;
};

void takeRanges(const Pixels& pixels, PictureFacts& facts) {
    const std::size_t count = pixels.rgba.size() / 4;
    facts.grey = true;
    std::size_t directions = 0;
    for (std::size_t k = 0; k < 4; ++k) {
        std::array<std::size_t, 256> histogram{};
        for (std::size_t i = 0; i < count; ++i) ++histogram[pixels.rgba[4 * i + k]];
        auto& channel = facts.channels[k];
        std::size_t low = 255, high = 0, ends = 0, dark = 0;
        double sum = 0;
        for (std::size_t v = 0; v < 256; ++v) {
            if (histogram[v] == 0) continue;
            low = std::min(low, v), high = std::max(high, v);
            sum += double(v) * double(histogram[v]);
            if (v <= 8) dark += histogram[v];
            if (v <= 8 || v >= 247) ends += histogram[v];
        }
        channel.least = double(low) / 255, channel.most = double(high) / 255;
        channel.mean = sum / 255 / double(count);
        channel.extremes = double(ends) / double(count), channel.dark = double(dark) / double(count);
    }
    for (std::size_t i = 0; i < count; ++i) {
        const auto* p = &pixels.rgba[4 * i];
        facts.grey = facts.grey && p[0] == p[1] && p[1] == p[2];
        const glm::dvec3 n = glm::dvec3(p[0], p[1], p[2]) / 127.5 - 1.0;
        directions += n.z > 0 && std::abs(glm::length(n) - 1) < 0.06;
    }
    facts.normalShare = double(directions) / double(count);
}

/// Correlation of each two of red, green and blue: near 1 in what is painted, near 0 where each is a map of
/// its own.
void takeLikeness(const Looked& look, PictureFacts& facts) {
    std::array<double, 3> sum{}, square{}, product{};
    double n = 0;
    for (int y = 0; y < look.height(); ++y)
        for (int x = 0; x < look.width(); ++x, n += 1)
            for (std::size_t k = 0; k < 3; ++k) {
                const double a = look.at(x, y, k), b = look.at(x, y, (k + 1) % 3);
                sum[k] += a, square[k] += a * a, product[k] += a * b;
            }
    facts.likeness = 1;
    for (std::size_t k = 0; k < 3; ++k) {
        const std::size_t other = (k + 1) % 3;
        const double both = product[k] / n - sum[k] / n * sum[other] / n,
                     one = square[k] / n - sum[k] * sum[k] / n / n,
                     two = square[other] / n - sum[other] * sum[other] / n / n;
        if (one > 1e-7 && two > 1e-7) facts.likeness = std::min(facts.likeness, both / std::sqrt(one * two));
    }
}

/// Correlation (Pearson's) of a channel's steps to the right, and downward, with what red and green say.
void takeSlopes(const Looked& look, PictureFacts& facts) {
    for (std::size_t k = 0; k < 4; ++k) {
        double rough = 0, n = 0;
        std::array<double, 2> xy{0, 0}, xx{0, 0}, yy{0, 0}, sx{0, 0}, sy{0, 0};
        for (int y = 1; y + 1 < look.height(); ++y)
            for (int x = 1; x + 1 < look.width(); ++x) {
                const double across = (look.at(x + 1, y, k) - look.at(x - 1, y, k)) / 2,
                             down = (look.at(x, y + 1, k) - look.at(x, y - 1, k)) / 2;
                rough += std::abs(across) + std::abs(down);
                const double slopes[] = {across, down},
                             says[] = {0.5 - look.at(x, y, 0), look.at(x, y, 1) - 0.5};
                for (std::size_t d = 0; d < 2; ++d) {
                    xy[d] += slopes[d] * says[d], xx[d] += slopes[d] * slopes[d];
                    yy[d] += says[d] * says[d], sx[d] += slopes[d], sy[d] += says[d];
                }
                n += 1;
            }
        if (n == 0) continue;
        auto& channel = facts.channels[k];
        channel.roughness = rough / n / 2;
        double* out[] = {&channel.alongRed, &channel.alongGreen};
        for (std::size_t d = 0; d < 2; ++d) {
            const double both = xy[d] / n - sx[d] / n * sy[d] / n, one = xx[d] / n - sx[d] * sx[d] / n / n,
                         other = yy[d] / n - sy[d] * sy[d] / n / n;
            *out[d] = one > 1e-9 && other > 1e-9 ? both / std::sqrt(one * other) : 0;
        }
    }
}

} // namespace

std::string_view channelWord(std::size_t channel) {
    constexpr std::string_view words[] = {"red", "green", "blue", "alpha"};
    return words[channel];
}

PictureFacts pictureFacts(std::string_view bytes) {
    texture::PictureFacts header;
    const auto* format = texture::pictureFormatOf(bytes, &header);
    if (!format) throw Error("is no picture of a kind that is known");
    const auto image = texture::pictureFromBytes("example", std::string(bytes)); // looks at its size
    PictureFacts facts;
    facts.format = format->id;
    // Huge ones are looked at one after the other, or by their header alone, so that memory stays in bounds.
    const double count = double(header.width) * header.height;
    static std::mutex oneHuge;
    std::unique_lock lock(oneHuge, std::defer_lock);
    if (count > 16e6) lock.lock();
    if (count > 70e6) {
        facts.width = header.width, facts.height = header.height;
        facts.alpha = header.channels == 4 || header.channels == 2;
        return facts;
    }
    const Pixels pixels = texture::decode(*image);
    facts.width = pixels.width, facts.height = pixels.height;
    facts.alpha = header.channels == 4 || header.channels == 2;
    takeRanges(pixels, facts);
    if (facts.alpha && !format->id.starts_with("png") && facts.channels[3].least > 0.999)
        facts.alpha = false; // kinds that always have room for it
    takeSlopes(Looked(pixels), facts);
    takeLikeness(Looked(pixels), facts);
    return facts;
}

} // namespace zl::learn
