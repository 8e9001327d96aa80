#include "core/selection/carried_over.h"

#include "core/base/error.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/twins.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>

namespace zl::selection {

namespace {

/// What brings a mesh into another's box, axis by axis.
struct IntoBox {
    glm::dvec3 scale{1}, from{0}, to{0};

    IntoBox(const geometry::Bounds& own, const geometry::Bounds& box) : from(own.min), to(box.min) {
        const glm::dvec3 is = own.size(), wanted = box.size();
        for (int k = 0; k < 3; ++k)
            if (is[k] > 0 && wanted[k] > 0) scale[k] = wanted[k] / is[k];
    }
    glm::vec3 operator()(const glm::vec3& p) const { return glm::vec3((glm::dvec3(p) - from) * scale + to); }
};

struct Votes {
    float yes = 0, no = 0, area = 0;
};

struct Guess {
    std::vector<std::uint32_t> faces;
    double agreeing = 0, all = 0; ///< areas
};

Guess guessed(const Mesh& from, const std::vector<char>& chosen, const Mesh& to) {
    constexpr std::array<glm::vec3, 4> points{glm::vec3(1.0f / 3), glm::vec3(2.0f / 3, 1.0f / 6, 1.0f / 6),
                                              glm::vec3(1.0f / 6, 2.0f / 3, 1.0f / 6),
                                              glm::vec3(1.0f / 6, 1.0f / 6, 2.0f / 3)};
    const auto box = geometry::meshBounds(from);
    const IntoBox place(geometry::meshBounds(to), box);
    const geometry::RayScene scene(from);
    const float far = float(glm::length(box.size())) / 50;
    const auto faceOf = [](const Mesh& mesh, std::size_t t, const auto& placed) {
        return std::array{placed(mesh.positions[mesh.indices[3 * t]]),
                          placed(mesh.positions[mesh.indices[3 * t + 1]]),
                          placed(mesh.positions[mesh.indices[3 * t + 2]])};
    };
    const auto wayOf = [](const std::array<glm::vec3, 3>& face) {
        return glm::cross(face[1] - face[0], face[2] - face[0]);
    };
    std::vector<Votes> votes(to.triangleCount());
    tbb::parallel_for(std::size_t(0), votes.size(), [&](std::size_t t) {
        const auto face = faceOf(to, t, place);
        const glm::vec3 way = wayOf(face);
        votes[t].area = glm::length(way);
        std::uint32_t near = ~0u;
        for (const glm::vec3& weight : points) {
            const auto found =
                scene.nearestTo(face[0] * weight.x + face[1] * weight.y + face[2] * weight.z, near);
            if (found.triangle >= chosen.size()) continue; // there is nothing
            near = found.triangle;
            const bool sure =
                found.distance <= far && glm::dot(way, wayOf(faceOf(from, near, std::identity()))) >= 0;
            (chosen[near] ? votes[t].yes : votes[t].no) += sure ? 1.0f : 0.5f;
        }
    });
    Guess out;
    for (std::uint32_t t = 0; t < votes.size(); ++t) {
        const Votes& vote = votes[t];
        if (vote.yes > vote.no) out.faces.push_back(t);
        if (vote.yes <= 0) continue;
        out.agreeing += double(vote.area) * double(std::max(vote.yes, vote.no)) / points.size();
        out.all += double(vote.area);
    }
    return out;
}

StoredFaces* storedIn(Term& term) {
    if (auto* of = std::get_if<OfFaces>(&term.what)) return &of->stored;
    if (auto* of = std::get_if<OfLooseParts>(&term.what)) return &of->from;
    if (auto* of = std::get_if<OfRegion>(&term.what)) return &of->from;
    return nullptr;
}

} // namespace

CarriedOver carriedOver(const Selection& selection, const Model& first, const Model& second) {
    CarriedOver out{.selection = selection};
    const auto report = geometry::comparedTwins(first, second);
    double agreeing = 0, all = 0;
    for (Term& term : out.selection.terms) {
        StoredFaces* stored = storedIn(term);
        if (!stored) continue;
        const Chosen own = chosen(first, {{{OfFaces{*stored}, false}}});
        for (std::size_t n = 0; n < own.faces.size(); ++n) {
            if (own.faces[n].empty()) continue;
            const auto pair = std::ranges::find_if(
                report.objects, [&](const geometry::TwinObject& object) { return object.node[0] == int(n); });
            if (pair == report.objects.end() || !pair->isInBoth())
                throw Error(
                    fmt::format("\"{}\" has nothing that it could be carried over to", stored->object), {},
                    "Choose the faces on both.");
            const auto meshOf = [](const Model& model, int node) -> const Mesh& {
                return *model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)];
            };
            const Mesh& to = meshOf(second, pair->node[1]);
            const Hash topology = topologyHash(to);
            if (topology == stored->topology) continue;
            Guess guess = guessed(meshOf(first, pair->node[0]), own.faces[n], to);
            agreeing += guess.agreeing, all += guess.all;
            std::erase_if(stored->others, [&](const auto& other) { return other.topology == topology; });
            stored->others.push_back({topology, std::move(guess.faces)});
        }
    }
    out.certain = all > 0 ? agreeing / all : 1;
    out.onFirst = chosen(first, out.selection);
    out.onSecond = chosen(second, out.selection);
    return out;
}

} // namespace zl::selection
