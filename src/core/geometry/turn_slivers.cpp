#include "core/geometry/turn_slivers.h"

#include "core/geometry/blend_corners.h"
#include "core/geometry/extract.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <deque>
#include <optional>
#include <unordered_map>

namespace zl::geometry {

namespace {

using Corners = std::array<std::uint32_t, 3>;

/// The triangles at each place of a mesh, also while triangles change: entries are never taken out, so
/// whoever asks looks whether a triangle still has the corner.
class TrianglesAt {
public:
    TrianglesAt(const Mesh& mesh, const std::vector<std::uint32_t>& place)
        : start_(place.size() + 1, 0), at_(mesh.indices.size()) {
        for (const std::uint32_t v : mesh.indices) ++start_[place[v] + 1];
        for (std::size_t i = 0; i + 1 < start_.size(); ++i) start_[i + 1] += start_[i];
        std::vector<std::uint32_t> fill(start_.begin(), start_.end() - 1);
        for (std::size_t c = 0; c < mesh.indices.size(); ++c)
            at_[fill[place[mesh.indices[c]]]++] = static_cast<std::uint32_t>(c / 3);
    }
    void add(std::uint32_t place, std::uint32_t triangle) { later_[place].push_back(triangle); }
    std::size_t count(std::uint32_t place) const {
        const auto later = later_.find(place);
        return start_[place + 1] - start_[place] + (later == later_.end() ? 0 : later->second.size());
    }
    void each(std::uint32_t place, const auto& visit) const {
        for (std::uint32_t i = start_[place]; i < start_[place + 1]; ++i) visit(at_[i]);
        if (const auto later = later_.find(place); later != later_.end())
            for (const std::uint32_t t : later->second) visit(t);
    }

private:
    std::vector<std::uint32_t> start_, at_;
    std::unordered_map<std::uint32_t, std::vector<std::uint32_t>> later_;
};

class Turner {
public:
    Turner(const Mesh& mesh, std::vector<std::uint32_t> place, double tolerance, std::vector<char> gone)
        : work_(mesh), place_(std::move(place)), tolerance_(tolerance), wear_(triangleWear(mesh)),
          gone_(std::move(gone)) {
        gone_.resize(work_.triangleCount(), 0);
    }

    TurnedSlivers run() {
        std::vector<char> isOpen(work_.triangleCount(), 0);
        tbb::parallel_for(std::size_t(0), isOpen.size(), [&](std::size_t t) {
            isOpen[t] = !gone_[t] && sliverCorner(work_, t, tolerance_) >= 0;
        });
        std::deque<std::uint32_t> open;
        for (std::uint32_t t = 0; t < isOpen.size(); ++t)
            if (isOpen[t]) open.push_back(t);
        TurnedSlivers result;
        if (open.empty()) {
            result.mesh = std::ranges::find(gone_, 1) == gone_.end() ? std::move(work_) : left();
            return result;
        }
        at_.emplace(work_, place_);
        // Each turn ends one sliver or hands it on along the strip that it lies in; what comes back again and
        // again is left.
        const std::size_t before = open.size();
        std::size_t turns = 8 * before + 64;
        while (!open.empty() && turns-- > 0) {
            const std::uint32_t t = open.front();
            open.pop_front();
            if (gone_[t]) continue;
            const int apex = sliverCorner(work_, t, tolerance_);
            if (apex >= 0) take(t, apex, open);
        }
        for (std::uint32_t t = 0; t < gone_.size(); ++t)
            result.kept += !gone_[t] && sliverCorner(work_, t, tolerance_) >= 0;
        result.taken = before - std::min(before, result.kept);
        result.mesh = left();
        return result;
    }

private:
    Mesh left() const {
        return extracted(work_, wear_, [&](std::size_t t) { return !gone_[t]; });
    }
    Corners cornersOf(std::uint32_t t) const {
        return {work_.indices[3 * std::size_t(t)], work_.indices[3 * std::size_t(t) + 1],
                work_.indices[3 * std::size_t(t) + 2]};
    }
    bool stands(std::uint32_t t, std::uint32_t place) const {
        const Corners c = cornersOf(t);
        return place_[c[0]] == place || place_[c[1]] == place || place_[c[2]] == place;
    }
    /// A triangle at the edge between two places other than `t`, the one with the lowest number; ~0 when
    /// there is none.
    std::uint32_t across(std::uint32_t a, std::uint32_t b, std::uint32_t t) const {
        if (at_->count(a) > at_->count(b)) std::swap(a, b);
        std::uint32_t best = ~0u;
        at_->each(a, [&](std::uint32_t other) {
            if (other != t && other < best && !gone_[other] && stands(other, a) && stands(other, b))
                best = other;
        });
        return best;
    }
    void set(std::uint32_t t, const Corners& c) {
        std::ranges::copy(c, &work_.indices[3 * std::size_t(t)]);
        for (const std::uint32_t v : c) at_->add(place_[v], t);
    }

    void take(std::uint32_t t, int apex, std::deque<std::uint32_t>& open) {
        const Corners s = cornersOf(t);
        const std::uint32_t c = s[apex], a = s[(apex + 1) % 3], b = s[(apex + 2) % 3];
        const std::uint32_t other = across(place_[a], place_[b], t);
        if (other == ~0u) {
            gone_[t] = 1;
            return;
        }
        const Corners n = cornersOf(other);
        int far = 0;
        while (far < 3 && (place_[n[far]] == place_[a] || place_[n[far]] == place_[b])) ++far;
        if (far == 3) return; // a double of an edge; such are not taken in
        const std::uint32_t d = n[far], n1 = n[(far + 1) % 3], n2 = n[(far + 2) % 3];
        if (place_[d] == place_[c]) { // they close on each other: nothing is left of either
            gone_[t] = gone_[other] = 1;
            return;
        }
        const std::uint32_t middle = cornerAt(c, a, b, n1, n2, wear_[t] == wear_[other]);
        set(other, {d, n1, middle});
        set(t, {d, middle, n2});
        wear_[t] = wear_[other];
        for (const std::uint32_t made : {t, other})
            if (sliverCorner(work_, made, tolerance_) >= 0) open.push_back(made);
    }

    /// The corner at c's place for the neighbour's side of the edge n1–n2.
    std::uint32_t cornerAt(std::uint32_t c, std::uint32_t a, std::uint32_t b, std::uint32_t n1,
                           std::uint32_t n2, bool sameMaterial) {
        const bool shared = sameMaterial && ((n1 == a && n2 == b) || (n1 == b && n2 == a));
        if (shared) return c;
        const glm::dvec3 from = work_.positions[n1], way = glm::dvec3(work_.positions[n2]) - from;
        const double length = glm::dot(way, way);
        const double share = length > 0 ? glm::dot(glm::dvec3(work_.positions[c]) - from, way) / length : 0;
        const std::uint32_t made = addCornerBetween(
            work_, n1, n2, static_cast<float>(std::clamp(share, 0.0, 1.0)), work_.positions[c]);
        place_.push_back(place_[c]);
        return made;
    }

    Mesh work_;
    std::vector<std::uint32_t> place_;
    double tolerance_;
    std::vector<Wear> wear_;
    std::vector<char> gone_;
    std::optional<TrianglesAt> at_;
};

} // namespace

int sliverCorner(const Mesh& mesh, std::size_t triangle, double tolerance) {
    const std::uint32_t* corner = &mesh.indices[3 * triangle];
    const glm::dvec3 p[3] = {mesh.positions[corner[0]], mesh.positions[corner[1]], mesh.positions[corner[2]]};
    int apex = 0;
    double longest = -1; // squares throughout, for roots take the most time
    for (int k = 0; k < 3; ++k) {
        const glm::dvec3 side = p[(k + 1) % 3] - p[(k + 2) % 3];
        if (const double length = glm::dot(side, side); length > longest) longest = length, apex = k;
    }
    const glm::dvec3 twiceArea = glm::cross(p[1] - p[0], p[2] - p[0]);
    const double least = std::max(tolerance * tolerance, 1e-12 * longest);
    return glm::dot(twiceArea, twiceArea) <= longest * least ? apex : -1;
}

TurnedSlivers turnSlivers(const Mesh& mesh, std::vector<std::uint32_t> place, double tolerance,
                          std::vector<char> gone) {
    return Turner(mesh, std::move(place), tolerance, std::move(gone)).run();
}

} // namespace zl::geometry
