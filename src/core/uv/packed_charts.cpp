#include "core/uv/packed_charts.h"

#include "core/base/error.h"
#include "core/texture/pack_rectangles.h"

#include <glm/gtc/constants.hpp>

#include <cmath>

namespace zl::uv {

namespace {

constexpr int squareEdge = 4096; // units that the square is packed in

glm::dvec2 turned(glm::dvec2 p, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {c * p.x - s * p.y, s * p.x + c * p.y};
}

struct Box {
    glm::dvec2 least{1e300}, most{-1e300};
    void add(glm::dvec2 p) { least = glm::min(least, p), most = glm::max(most, p); }
    glm::dvec2 size() const { return least.x > most.x ? glm::dvec2(0) : most - least; }
};

/// A chart with the turn whose box is smallest, of sixteen within a quarter turn.
struct TurnedChart {
    double turn = 0;
    Box box;
};

std::vector<TurnedChart> turnedCharts(const Charts& charts) {
    constexpr int turns = 16;
    std::vector<std::array<Box, turns>> boxes(charts.count);
    for (std::size_t t = 0; t < charts.chart.size(); ++t)
        for (const glm::dvec2& at : charts.at[t])
            for (int i = 0; i < turns; ++i)
                boxes[std::size_t(charts.chart[t])][std::size_t(i)].add(
                    turned(at, glm::half_pi<double>() * i / turns));
    std::vector<TurnedChart> out(charts.count);
    for (std::size_t c = 0; c < charts.count; ++c) {
        double best = 1e300;
        for (int i = 0; i < turns; ++i) {
            const glm::dvec2 size = boxes[c][std::size_t(i)].size();
            // A turn has to be worth it: upright pictures are easier to paint on.
            const double area = size.x * size.y * (i == 0 ? 0.9 : 1.0) + 1e-12 * (size.x + size.y);
            if (area < best)
                best = area, out[c] = {glm::half_pi<double>() * i / turns, boxes[c][std::size_t(i)]};
        }
    }
    return out;
}

} // namespace

glm::dvec2 PackedCharts::of(std::size_t mesh, int chart, glm::dvec2 at) const {
    const ChartPlace& place = places[mesh][std::size_t(chart)];
    return turned(at, place.turn) * scale + place.by;
}

PackedCharts packedCharts(const std::vector<const Charts*>& meshes, double padding,
                          const Progress& progress) {
    std::vector<std::vector<TurnedChart>> charts;
    double area = 0, longest = 0;
    std::size_t count = 0;
    for (const Charts* mesh : meshes) {
        charts.push_back(turnedCharts(*mesh));
        for (const TurnedChart& chart : charts.back()) {
            const glm::dvec2 size = chart.box.size();
            area += size.x * size.y, longest = std::max({longest, size.x, size.y});
            ++count;
        }
    }
    const int pad = std::max(0, int(std::lround(padding * squareEdge)));
    const auto tried = [&](double unitsPerMetre) {
        std::vector<glm::ivec2> sizes;
        for (const auto& mesh : charts)
            for (const TurnedChart& chart : mesh) {
                const glm::dvec2 size = glm::ceil(chart.box.size() * unitsPerMetre);
                sizes.push_back(glm::ivec2(glm::clamp(size, 1.0, 65536.0)) + 2 * pad);
            }
        return texture::packedRectangles(sizes, glm::ivec2(squareEdge));
    };
    if (!(longest > 0) || !std::isfinite(area)) longest = 1, area = 1;
    double high = std::min(squareEdge / longest, area > 0 ? squareEdge / std::sqrt(area) : 1e300), low = 0;
    std::optional<std::vector<glm::ivec2>> best;
    constexpr int rounds = 10;
    for (int i = 0; i < rounds; ++i) {
        progress.report(double(i) / rounds, "packing islands");
        // Halves until something fits, then halves of what is between.
        const double scale = low > 0 ? (low + high) / 2 : i == 0 ? high * 0.98 : high / 2;
        if (auto corners = tried(scale))
            best = std::move(corners), low = scale;
        else
            high = scale;
    }
    if (!best)
        throw Error("the islands do not fit beside each other", {},
                    "Take less padding, or a larger angle so that there are fewer islands (" +
                        std::to_string(count) + " now).");
    PackedCharts out;
    out.scale = low / squareEdge;
    std::size_t next = 0;
    for (const auto& mesh : charts) {
        auto& places = out.places.emplace_back();
        for (const TurnedChart& chart : mesh) {
            const glm::dvec2 corner = glm::dvec2((*best)[next++] + pad) / double(squareEdge);
            places.push_back({chart.turn, chart.box.least.x > chart.box.most.x
                                              ? corner
                                              : corner - chart.box.least * out.scale});
            const glm::dvec2 size = chart.box.size() * out.scale;
            out.used += size.x * size.y;
        }
    }
    return out;
}

} // namespace zl::uv
