#include "core/geometry/clipping.h"

#include <tbb/combinable.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <numeric>

namespace zl::geometry {

namespace {

/// Directions that no modelled edge or face is likely to run along.
const glm::vec3 ways[] = {glm::normalize(glm::vec3(0.5377f, 0.7193f, 0.4401f)),
                          glm::normalize(glm::vec3(-0.6131f, 0.3717f, 0.6971f)),
                          glm::normalize(glm::vec3(0.2953f, -0.8417f, 0.4523f))};

/// Whether a ray leaves the surface more often than it enters it, or the other way round.
bool isWoundRound(const RayScene& rays, const glm::vec3& point, const glm::vec3& way) {
    constexpr int most = 512; // a shape that is crossed more often tells nothing
    float least = 0;
    int sum = 0;
    for (int i = 0; i < most; ++i) {
        const auto hit = rays.hit(point, way, least);
        if (!hit) break;
        sum += glm::dot(hit->normal, way) > 0 ? 1 : -1;
        least = std::nextafter(hit->distance, 1e30f);
    }
    return sum != 0;
}

/// For each of many in parallel; of few one after the other, for starting costs more than they do.
template <class Work>
void each(std::size_t count, const Work& work) {
    constexpr std::size_t few = 512;
    if (count >= few) return tbb::parallel_for(std::size_t(0), count, work);
    for (std::size_t i = 0; i < count; ++i) work(i);
}

/// Thousands of parts in one heap, each by all others, would take hours and tell nothing more.
constexpr std::size_t mostPairs = 100'000;

struct Deepest {
    float depth = 0;
    glm::vec3 place{0};
    void add(const Deepest& other) {
        // The same whoever finds it first.
        if (std::tie(other.depth, other.place.x, other.place.y, other.place.z) >
            std::tie(depth, place.x, place.y, place.z))
            *this = other;
    }
};

/// One body as it reaches into another.
class Reach {
public:
    Reach(const Body& body, const Body& into, float tolerance, const Progress& progress)
        : body_(body), into_(into), tolerance_(tolerance), progress_(progress),
          low_(glm::max(body.low(), into.low())), high_(glm::min(body.high(), into.high())) {}

    /// Marks faces of both, and tells the deepest point of `body` in `into`.
    Deepest look(std::vector<char>& faces, std::vector<char>& facesOfInto) const {
        const Mesh& mesh = body_.mesh();
        std::vector<char> inside(mesh.vertexCount(), 0);
        tbb::combinable<Deepest> deepest;
        each(mesh.vertexCount(), [&](std::size_t v) {
            if (v % 64 == 0) progress_.checkCancel();
            if (const float depth = depthAt(mesh.positions[v]); depth > 0) {
                inside[v] = 1;
                deepest.local().add({depth, mesh.positions[v]});
            }
        });
        // Bytes that several triangles of one edge may set to the same value.
        std::vector<std::atomic<char>> marked(mesh.triangleCount()), hit(into_.mesh().triangleCount());
        each(mesh.triangleCount(), [&](std::size_t t) {
            if (t % 64 == 0) progress_.checkCancel();
            const std::uint32_t* c = &mesh.indices[3 * t];
            if (inside[c[0]] || inside[c[1]] || inside[c[2]]) marked[t].store(1, std::memory_order_relaxed);
            for (int k = 0; k < 3; ++k) {
                const std::uint32_t from = c[k], to = c[(k + 1) % 3];
                if (inside[from] && inside[to]) continue; // its ends tell as much as its middle
                if (const Deepest along =
                        alongEdge(mesh.positions[from], mesh.positions[to], inside[from], hit);
                    along.depth > 0) {
                    marked[t].store(1, std::memory_order_relaxed);
                    deepest.local().add(along);
                }
            }
        });
        for (std::size_t t = 0; t < marked.size(); ++t) faces[t] |= marked[t].load();
        for (std::size_t t = 0; t < hit.size(); ++t) facesOfInto[t] |= hit[t].load();
        Deepest all;
        deepest.combine_each([&](const Deepest& one) { all.add(one); });
        return all;
    }

private:
    bool mayBeInside(const glm::vec3& p) const {
        return glm::all(glm::greaterThanEqual(p, low_)) && glm::all(glm::lessThanEqual(p, high_));
    }
    /// Zero outside, and for what only touches.
    float depthAt(const glm::vec3& p) const {
        if (!mayBeInside(p) || !into_.holds(p)) return 0;
        const float depth = into_.rays().distanceTo(p);
        return std::isfinite(depth) && depth > tolerance_ ? depth : 0;
    }
    Deepest alongEdge(const glm::vec3& from, const glm::vec3& to, bool beginsInside,
                      std::vector<std::atomic<char>>& hit) const {
        Deepest deepest;
        if (glm::any(glm::lessThan(glm::max(from, to), low_)) ||
            glm::any(glm::greaterThan(glm::min(from, to), high_)))
            return deepest;
        const glm::vec3 way = to - from;
        struct Crossing {
            float at;
            std::uint32_t triangle;
            bool enters;
        };
        std::vector<Crossing> crossings;
        constexpr std::size_t most = 128, mostLookedAt = 16;
        for (float least = 0; crossings.size() < most;) {
            const auto found = into_.rays().hit(from, way, least, 1);
            if (!found) break;
            crossings.push_back({found->distance, found->triangle, glm::dot(found->normal, way) < 0});
            least = std::nextafter(found->distance, 2.0f);
        }
        if (crossings.empty()) return deepest;
        // What is between two crossings: whether it may be inside is told by what was entered and left on the
        // way; a surface that faces either way is looked at wherever it was crossed.
        const auto startOf = [&](std::size_t i) { return i == 0 ? 0 : crossings[i - 1].at; };
        const auto endOf = [&](std::size_t i) { return i == crossings.size() ? 1 : crossings[i].at; };
        std::vector<std::size_t> sections;
        int depthNow = beginsInside ? 1 : 0;
        for (std::size_t i = 0; i <= crossings.size(); ++i) {
            if (depthNow != 0) sections.push_back(i);
            if (i < crossings.size()) depthNow += crossings[i].enters ? 1 : -1;
        }
        if (sections.size() > mostLookedAt) {
            std::ranges::stable_sort(sections, std::ranges::greater(),
                                     [&](std::size_t i) { return endOf(i) - startOf(i); });
            sections.resize(mostLookedAt);
        }
        for (const std::size_t i : sections) {
            const glm::vec3 middle = from + way * ((startOf(i) + endOf(i)) / 2);
            const float depth = depthAt(middle);
            if (depth <= 0) continue;
            deepest.add({depth, middle});
            if (i > 0) hit[crossings[i - 1].triangle].store(1, std::memory_order_relaxed);
            if (i < crossings.size()) hit[crossings[i].triangle].store(1, std::memory_order_relaxed);
        }
        return deepest;
    }

    const Body& body_;
    const Body& into_;
    float tolerance_;
    const Progress& progress_;
    glm::vec3 low_, high_; ///< where both can be
};

bool areApart(const Body& a, const Body& b) {
    return glm::any(glm::lessThan(a.high(), b.low())) || glm::any(glm::lessThan(b.high(), a.low()));
}

std::optional<Overlap> overlapOf(const Body& a, const Body& b, double tolerance, const Progress& progress) {
    const float size = std::max(glm::length(a.high() - a.low()), glm::length(b.high() - b.low()));
    const float touching = std::max(float(tolerance), 1e-5f * size);
    Overlap out;
    out.facesOfA.assign(a.mesh().triangleCount(), 0), out.facesOfB.assign(b.mesh().triangleCount(), 0);
    Deepest deepest = Reach(a, b, touching, progress).look(out.facesOfA, out.facesOfB);
    deepest.add(Reach(b, a, touching, progress).look(out.facesOfB, out.facesOfA));
    if (deepest.depth <= 0) return std::nullopt;
    out.faces = std::size_t(std::ranges::count(out.facesOfA, 1) + std::ranges::count(out.facesOfB, 1));
    out.deepest = deepest.depth, out.place = deepest.place;
    return out;
}

std::vector<Overlap> overlapsOf(const std::vector<Body>& these, const std::vector<Body>& those, bool among,
                                double tolerance, const Progress& progress, bool* cutShort) {
    std::vector<Overlap> out;
    std::vector<std::size_t> along(those.size()); // in the order in which they begin along x
    std::iota(along.begin(), along.end(), std::size_t(0));
    std::ranges::stable_sort(along, {}, [&](std::size_t b) { return those[b].low().x; });
    // Each with all others, so that thousands of small parts in one heap are shared among the processors.
    std::vector<std::vector<Overlap>> found(these.size());
    std::atomic<std::size_t> pairs{0};
    tbb::parallel_for(std::size_t(0), these.size(), [&](std::size_t a) {
        for (const std::size_t b : along) {
            if (those[b].low().x > these[a].high().x || pairs > mostPairs) break;
            if ((among && b <= a) || areApart(these[a], those[b])) continue;
            progress.checkCancel();
            ++pairs;
            if (auto overlap = overlapOf(these[a], those[b], tolerance, progress)) {
                overlap->a = a, overlap->b = b;
                found[a].push_back(std::move(*overlap));
            }
        }
    });
    if (cutShort) *cutShort = pairs > mostPairs;
    for (auto& own : found) std::ranges::move(own, std::back_inserter(out));
    std::ranges::stable_sort(out, std::ranges::greater(), &Overlap::deepest);
    return out;
}

} // namespace

Body::Body(std::string name, int node, Mesh mesh)
    : name_(std::move(name)), node_(node), mesh_(std::move(mesh)),
      rays_(std::make_shared<const RayScene>(mesh_, true)) {
    for (const std::uint32_t i : mesh_.indices)
        low_ = glm::min(low_, mesh_.positions[i]), high_ = glm::max(high_, mesh_.positions[i]);
}

bool Body::holds(const glm::vec3& point) const {
    const bool first = isWoundRound(*rays_, point, ways[0]), second = isWoundRound(*rays_, point, ways[1]);
    return first == second ? first : isWoundRound(*rays_, point, ways[2]);
}

std::vector<Body> bodiesOf(const Model& model, const Mesh& flat, const std::vector<int>& nodeOfTriangle) {
    std::vector<std::vector<std::uint32_t>> triangles(model.nodes.size());
    for (std::size_t t = 0; t < nodeOfTriangle.size(); ++t)
        triangles[std::size_t(nodeOfTriangle[t])].push_back(std::uint32_t(t));
    std::vector<Body> bodies;
    std::vector<std::uint32_t> own(flat.vertexCount(), ~0u);
    for (std::size_t n = 0; n < triangles.size(); ++n) {
        if (triangles[n].empty()) continue;
        Mesh mesh;
        std::vector<std::uint32_t> used;
        for (const std::uint32_t t : triangles[n])
            for (int k = 0; k < 3; ++k) {
                const std::uint32_t corner = flat.indices[3 * std::size_t(t) + std::size_t(k)];
                if (own[corner] == ~0u) {
                    own[corner] = std::uint32_t(mesh.positions.size());
                    mesh.positions.push_back(flat.positions[corner]);
                    used.push_back(corner);
                }
                mesh.indices.push_back(own[corner]);
            }
        for (const std::uint32_t corner : used) own[corner] = ~0u;
        bodies.emplace_back(model.nodes[n].name, int(n), std::move(mesh));
    }
    return bodies;
}

std::vector<Overlap> overlaps(const std::vector<Body>& these, const std::vector<Body>& those,
                              double tolerance, const Progress& progress) {
    return overlapsOf(these, those, false, tolerance, progress, nullptr);
}

std::vector<Overlap> overlapsAmong(const std::vector<Body>& all, double tolerance, const Progress& progress,
                                   bool* cutShort) {
    return overlapsOf(all, all, true, tolerance, progress, cutShort);
}

} // namespace zl::geometry
