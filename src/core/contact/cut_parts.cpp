#include "core/contact/cut_parts.h"

#include "core/contact/convex_hull.h"
#include "core/contact/notches.h"
#include "core/contact/principal_axes.h"
#include "core/contact/rough_hull.h"
#include "core/contact/support_points.h"
#include "core/geometry/clean.h"
#include "core/geometry/line_crossings.h"
#include "core/geometry/solids.h"
#include "core/geometry/world.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>

namespace zl::contact {

namespace {

struct Plane {
    glm::dvec3 normal{1, 0, 0};
    double at = 0;
    double of(const glm::vec3& p) const { return glm::dot(normal, glm::dvec3(p)) - at; }
};

void findHull(CutPart& part) {
    auto points = part.points;
    points.insert(points.end(), part.deep.begin(), part.deep.end());
    auto hull = convexHull(points);
    part.hull = hull ? std::move(*hull) : Mesh();
    part.hullVolume = geometry::signedVolume(part.hull);
}

bool isInside(const Mesh& mesh, const glm::vec3& p) {
    const geometry::LineCrossings line(mesh,
                                       {.axis = 1, .first = {p.z, p.x}, .step = 1, .across = 1, .down = 1});
    std::vector<geometry::Stretch> inside;
    line.insideOf(0, inside);
    return std::ranges::any_of(inside, [&](const auto& one) { return one.from < p.y && p.y < one.to; });
}

glm::vec3 crossing(const glm::vec3& a, const glm::vec3& b, double sideA, double sideB) {
    return glm::vec3(glm::mix(glm::dvec3(a), glm::dvec3(b), sideA / (sideA - sideB)));
}

/// Cuts the cell of `part`; corners that the plane makes are deep where they lie inside the mesh.
void cutCell(const CutPart& part, const Plane& plane, const Mesh& mesh, CutPart& out) {
    for (const glm::vec3& p : part.deep)
        if (plane.of(p) >= 0) out.deep.push_back(p);
    std::vector<glm::vec3> corners, made;
    const Mesh& cell = part.cell;
    for (const glm::vec3& p : cell.positions)
        if (plane.of(p) >= 0) corners.push_back(p);
    for (std::size_t i = 0; i < cell.indices.size(); ++i) {
        const std::uint32_t a = cell.indices[i], b = cell.indices[i % 3 == 2 ? i - 2 : i + 1];
        const double sideA = plane.of(cell.positions[a]), sideB = plane.of(cell.positions[b]);
        if (a < b && (sideA >= 0) != (sideB >= 0))
            made.push_back(crossing(cell.positions[a], cell.positions[b], sideA, sideB));
    }
    corners.insert(corners.end(), made.begin(), made.end());
    if (auto hull = convexHull(corners)) out.cell = std::move(*hull);
    // Asked a little within the cell: planes go along faces, where nothing is inside or outside.
    const glm::vec3 middle(geometry::meshBounds(out.cell).centre());
    for (const glm::vec3& p : made)
        if (std::ranges::find(out.cell.positions, p) != out.cell.positions.end() &&
            isInside(mesh, glm::mix(p, middle, 1e-4f)))
            out.deep.push_back(p);
}

/// Across a face of a part, of any length.
glm::dvec3 faceNormal(const CutPart& part, std::size_t first) {
    const auto p = [&](std::size_t k) { return glm::dvec3(part.points[part.indices[first + k]]); };
    return glm::cross(p(1) - p(0), p(2) - p(0));
}

/// One half of a part: what is in front of the plane. Faces that lie in it belong to the half that they
/// enclose, or the empty space before them would be a part of its own.
CutPart halfOf(const CutPart& part, const Plane& plane, const Mesh& mesh) {
    CutPart out;
    cutCell(part, plane, mesh, out);
    std::vector<double> side(part.points.size());
    constexpr double inPlane = 2e-6; // of size 1, in single precision
    for (std::size_t v = 0; v < side.size(); ++v) {
        side[v] = plane.of(part.points[v]);
        if (std::abs(side[v]) < inPlane) side[v] = 0;
    }
    std::vector<std::uint32_t> number(side.size(), ~0u);
    std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> between;
    const auto kept = [&](std::uint32_t v) {
        if (number[v] == ~0u)
            number[v] = std::uint32_t(out.points.size()), out.points.push_back(part.points[v]);
        return number[v];
    };
    const auto cut = [&](std::uint32_t a, std::uint32_t b) {
        const auto [found, isNew] = between.try_emplace(std::minmax(a, b), std::uint32_t(out.points.size()));
        if (isNew) out.points.push_back(crossing(part.points[a], part.points[b], side[a], side[b]));
        return found->second;
    };
    for (std::size_t i = 0; i < part.indices.size(); i += 3) {
        const std::uint32_t* corner = &part.indices[i];
        const double most = std::max({side[corner[0]], side[corner[1]], side[corner[2]]}),
                     least = std::min({side[corner[0]], side[corner[1]], side[corner[2]]});
        if (most < 0 || (most == 0 && least < 0)) continue;
        if (most == 0 && glm::dot(plane.normal, faceNormal(part, i)) >= 0) continue;
        std::array<std::uint32_t, 4> polygon{};
        std::size_t count = 0;
        for (std::size_t k = 0; k < 3; ++k) { // Sutherland and Hodgman 1974
            const std::uint32_t a = corner[k], b = corner[(k + 1) % 3];
            if (side[a] >= 0) polygon[count++] = kept(a);
            if ((side[a] > 0 && side[b] < 0) || (side[a] < 0 && side[b] > 0)) polygon[count++] = cut(a, b);
        }
        for (std::size_t k = 2; k < count; ++k)
            out.indices.insert(out.indices.end(), {polygon[0], polygon[k - 1], polygon[k]});
    }
    for (const glm::vec4& p : part.inside)
        if (plane.of(glm::vec3(p)) >= 0) out.inside.push_back(p), out.insideVolume += double(p.w);
    findHull(out);
    return out;
}

/// What the halves' hulls hold together, by the farthest points in some directions, and a little for halves
/// of unlike size: cutting bits off the end of a ring never opens it.
class CutCost {
public:
    explicit CutCost(const CutPart& part) : part_(part) {
        for (std::size_t i = 0; i < part.indices.size(); i += 3)
            for (std::size_t k = 0; k < 3; ++k) {
                const std::uint32_t a = part.indices[i + k], b = part.indices[i + (k + 1) % 3];
                edges_.push_back(std::minmax(a, b));
            }
        std::sort(edges_.begin(), edges_.end());
        edges_.erase(std::unique(edges_.begin(), edges_.end()), edges_.end());
        constexpr std::size_t enough = 1500;
        const std::size_t stride = std::max<std::size_t>(1, part.inside.size() / enough);
        for (std::size_t i = 0; i < part.inside.size(); i += stride) inside_.emplace_back(part.inside[i]);
    }

    double of(const Plane& plane) const {
        SupportPoints front, back;
        std::vector<float> side(part_.points.size());
        for (std::size_t v = 0; v < side.size(); ++v) {
            side[v] = float(plane.of(part_.points[v]));
            (side[v] >= 0 ? front : back).add(part_.points[v]);
        }
        for (const auto& [a, b] : edges_)
            if ((side[a] >= 0) != (side[b] >= 0)) {
                const glm::vec3 p = crossing(part_.points[a], part_.points[b], side[a], side[b]);
                front.add(p), back.add(p);
            }
        for (const glm::vec3& p : inside_) (plane.of(p) >= 0 ? front : back).add(p);
        const double one = roughHullVolume(front.points()), other = roughHullVolume(back.points());
        if (!(one > 0 && other > 0)) return std::numeric_limits<double>::max(); // a flat bit comes off
        const double apart = std::abs(one - other) / (one + other);
        return one + other + unlike * part_.hullVolume * apart;
    }

private:
    static constexpr double unlike = 0.05;
    const CutPart& part_;
    std::vector<std::pair<std::uint32_t, std::uint32_t>> edges_;
    std::vector<glm::vec3> inside_;
};

struct Cut {
    Plane plane;
    double cost = std::numeric_limits<double>::max();
};

/// The best place along one direction: spread over all first, then finer about the best, then at corners, at
/// all of them where they are few.
Cut bestAlong(const CutPart& part, const CutCost& cost, const glm::dvec3& normal, double longest,
              double across) {
    std::vector<double> places;
    if (part.points.empty()) return {}; // all of it lies deep inside
    for (const glm::vec3& p : part.points) places.push_back(glm::dot(normal, glm::dvec3(p)));
    std::sort(places.begin(), places.end());
    Cut best;
    const double low = places.front(), high = places.back();
    if (!(high - low > 1e-5)) return best;
    const double margin = 0.01 * (high - low);
    const double along = across * part.hullVolume * (1 - (high - low) / longest);
    const auto attempt = [&](double at) {
        if (at < low + margin || at > high - margin) return;
        const Plane plane{normal, at};
        if (const double now = cost.of(plane) + along; now < best.cost) best = {plane, now};
    };
    constexpr int coarse = 10;
    for (int i = 1; i < coarse; ++i) attempt(low + (high - low) * i / coarse);
    double step = (high - low) / coarse;
    for (int finer = 0; finer < 3; ++finer) {
        step /= 2;
        const double middle = best.plane.at;
        attempt(middle - step), attempt(middle + step);
    }
    constexpr double alike = 1e-4;
    constexpr std::size_t few = 24;
    places.erase(std::unique(places.begin(), places.end(),
                             [&](double a, double b) { return b - a < alike * (high - low); }),
                 places.end());
    if (places.size() <= few) {
        for (const double at : places) attempt(at);
        return best;
    }
    const auto next = std::lower_bound(places.begin(), places.end(), best.plane.at);
    if (next != places.end()) attempt(*next);
    if (next != places.begin()) attempt(*std::prev(next));
    return best;
}

std::vector<glm::dvec3> normalsFor(const CutPart& part) {
    std::vector<glm::dvec3> out{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
    std::vector<glm::vec3> cloud(part.inside.begin(), part.inside.end());
    if (cloud.size() < 16) cloud = part.points;
    constexpr double near = 0.9998; // less than 1° off
    if (const auto axes = principalAxes(cloud))
        for (const glm::dvec3& axis : *axes)
            if (std::max({std::abs(axis.x), std::abs(axis.y), std::abs(axis.z)}) < near) out.push_back(axis);
    return out;
}

double extent(const CutPart& part, const std::vector<glm::dvec3>& normals) {
    double longest = 0;
    for (const glm::dvec3& normal : normals) {
        double low = std::numeric_limits<double>::max(), high = std::numeric_limits<double>::lowest();
        for (const glm::vec3& p : part.points) {
            const double at = glm::dot(normal, glm::dvec3(p));
            low = std::min(low, at), high = std::max(high, at);
        }
        longest = std::max(longest, high - low);
    }
    return longest;
}

Cut bestCut(const CutPart& part, double across) {
    const CutCost cost(part);
    const auto normals = normalsFor(part);
    std::vector<Cut> found(normals.size());
    const double longest = extent(part, normals);
    tbb::parallel_for(std::size_t(0), normals.size(),
                      [&](std::size_t i) { found[i] = bestAlong(part, cost, normals[i], longest, across); });
    return *std::ranges::min_element(found, {}, &Cut::cost);
}

/// Along the faces of a fold: of the planes that take most folds away the one whose halves' hulls are
/// smallest.
Cut bestNotch(const CutPart& part, const std::vector<NotchPlane>& planes) {
    Cut best;
    const CutCost cost(part);
    for (const NotchPlane& plane : planes) {
        constexpr double asGood = 0.999;
        if (best.cost < std::numeric_limits<double>::max() && plane.folded < asGood * planes[0].folded) break;
        const Plane at{plane.normal, plane.at};
        if (const double now = cost.of(at); now < best.cost) best = {at, now};
    }
    return best;
}

CutPart wholeOf(const Mesh& mesh, const Progress& progress) {
    CutPart out;
    out.points = mesh.positions;
    out.indices = mesh.indices;
    const auto bounds = geometry::meshBounds(mesh);
    out.cell = geometry::boxMesh(bounds.min - glm::dvec3(0.01), bounds.max + glm::dvec3(0.01));
    // Along the shortest side, so that a thin wall is as thick as it is.
    const glm::dvec3 size = bounds.size();
    const int axis = size.x <= size.y && size.x <= size.z ? 0 : size.y <= size.z ? 1 : 2;
    constexpr int lines = 64; // along the longest
    const auto grid = geometry::linesOver(bounds, axis, lines);
    const geometry::LineCrossings crossings(mesh, grid, progress);
    std::vector<geometry::Stretch> inside;
    for (std::size_t line = 0; line < grid.count(); ++line) {
        crossings.insideOf(line, inside);
        for (const auto& one : inside) {
            const double length = one.to - one.from, volume = length * grid.step * grid.step;
            const int count = std::max(1, int(std::lround(length / grid.step)));
            for (int i = 0; i < count; ++i)
                out.inside.emplace_back(grid.pointOf(line, one.from + length * (i + 0.5) / count),
                                        volume / count);
            out.insideVolume += volume;
        }
    }
    findHull(out);
    return out;
}

} // namespace

std::vector<CutPart> cutApart(const Mesh& mesh, const CutGoal& goal, const Progress& progress) {
    std::vector<CutPart> out, done; // done: no plane cuts them
    if (mesh.triangleCount() == 0) return out;
    out.push_back(wholeOf(mesh, progress));
    if (!(out[0].hullVolume > 0)) return {};
    const double least = goal.least * out[0].hullVolume;
    while (!out.empty() && out.size() + done.size() < goal.parts) {
        progress.report(double(out.size() + done.size()) / double(goal.parts));
        const auto worst = std::ranges::max_element(out, {}, &CutPart::excess);
        if (worst->excess() <= least) break;
        constexpr double none = std::numeric_limits<double>::max();
        Cut cut;
        if (goal.alongFaces) {
            const Notches notches = notchesOf(worst->points, worst->indices);
            // What is inside is known by points alone, so that a hull that is all there seems to lack a
            // little.
            constexpr double seems = 0.1;
            if (notches.folds == 0 && worst->excess() < seems * worst->hullVolume) {
                done.push_back(std::move(*worst));
                out.erase(worst);
                continue;
            }
            cut = bestNotch(*worst, notches.planes);
        }
        if (cut.cost == none) cut = bestCut(*worst, goal.across);
        CutPart front, back;
        if (cut.cost < none) {
            front = halfOf(*worst, cut.plane, mesh);
            back = halfOf(*worst, {-cut.plane.normal, -cut.plane.at}, mesh);
        }
        if (front.hullVolume > 0 && back.hullVolume > 0) {
            *worst = std::move(front);
            out.push_back(std::move(back));
        } else {
            done.push_back(std::move(*worst));
            out.erase(worst);
        }
    }
    std::ranges::move(done, std::back_inserter(out));
    return out;
}

} // namespace zl::contact
