#include "core/avatar/morph_matches.h"

#include "core/avatar/roles.h"
#include "core/base/letters.h"
#include "core/geometry/world.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace zl::avatar {

namespace {

/// What a target moves: where that is, and the mean way.
struct Reach {
    glm::dvec3 middle{0}, way{0};
    double moved = 0;
};

std::map<std::string, Reach> reachesOf(const Model& model) {
    std::map<std::string, Reach> out;
    geometry::forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4& world) {
        for (const MorphTarget& morph : mesh.morphs) {
            Reach& reach = out[morph.name];
            for (std::size_t v = 0; v < morph.positions.size(); ++v) {
                const glm::dvec3 way = glm::dmat3(world) * glm::dvec3(morph.positions[v]);
                const double far = glm::length(way);
                if (!(far > 0)) continue;
                reach.middle += far * glm::dvec3(world * glm::dvec4(glm::dvec3(mesh.positions[v]), 1));
                reach.way += way, reach.moved += far;
            }
        }
    });
    for (auto& [name, reach] : out)
        if (reach.moved > 0) reach.middle /= reach.moved, reach.way /= reach.moved;
    return out;
}

std::string plain(std::string_view name) {
    if (const auto meant = expressionMeantBy(name)) return std::string(*meant);
    std::string out;
    for (const char c : lowerCase(name))
        if (std::isalnum(static_cast<unsigned char>(c)) || static_cast<unsigned char>(c) >= 128) out += c;
    return out;
}

} // namespace

MorphMatches matchedMorphs(const Model& from, const Model& to, double ratio) {
    const auto own = reachesOf(from), other = reachesOf(to);
    MorphMatches out;
    std::set<std::string> taken;
    for (const auto& [name, reach] : own)
        if (other.contains(name)) out.of[name] = {name}, taken.insert(name);
    std::map<std::string, std::string> byPlain;
    for (const auto& [name, reach] : other)
        if (!taken.contains(name)) byPlain.try_emplace(plain(name), name);
    for (const auto& [name, reach] : own) {
        if (out.of.contains(name)) continue;
        const auto found = byPlain.find(plain(name));
        if (found == byPlain.end() || found->first.empty() || !taken.insert(found->second).second) continue;
        out.of[name] = {found->second};
    }
    const double tall = geometry::worldBounds(to).size().y;
    const auto apart = [&](const Reach& a, const Reach& b) {
        if (!(a.moved > 0) || !(b.moved > 0)) return HUGE_VAL;
        const double far = glm::distance(ratio * a.middle, b.middle) / std::max(tall, 1e-9);
        // One whose corners go all ways alike has no direction to compare.
        const double lengths = glm::length(a.way) * glm::length(b.way);
        const bool aligned =
            lengths < 1e-18 || glm::dot(a.way, b.way) > std::cos(glm::radians(40.0)) * lengths;
        return far < 0.05 && aligned ? far : HUGE_VAL;
    };
    const auto nearest = [&](const Reach& reach, const auto& all, const auto& isFree) {
        const std::string* best = nullptr;
        double least = HUGE_VAL;
        for (const auto& [name, one] : all)
            if (isFree(name))
                if (const double far = apart(&all == &other ? reach : one, &all == &other ? one : reach);
                    far < least)
                    least = far, best = &name;
        return best;
    };
    std::map<std::string, std::string> guessed;
    for (const auto& [name, reach] : own) {
        if (out.of.contains(name)) continue;
        const auto* best = nearest(reach, other, [&](const std::string& n) { return !taken.contains(n); });
        if (!best) continue;
        const auto* back =
            nearest(other.at(*best), own, [&](const std::string& n) { return !out.of.contains(n); });
        if (back && *back == name) guessed[name] = *best;
    }
    for (const auto& [name, to_] : guessed) out.of[name] = {to_, true};
    return out;
}

} // namespace zl::avatar
