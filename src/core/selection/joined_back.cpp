#include "core/selection/cut_out.h"

#include "core/base/words.h"
#include "core/geometry/merge_meshes.h"
#include "core/geometry/moving_nodes.h"
#include "core/geometry/parts.h"
#include "core/geometry/clip_keys.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"
#include "core/model/finite.h"
#include "core/model/node_path.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::selection {

namespace {

/// Calls `each` with every list of values a corner of two meshes, a pair at a time; false where one has what
/// the other has not.
template <class Each>
bool forEachList(Mesh& to, const Mesh& from, const Each& each) {
    const auto both = [&](auto& a, const auto& b) {
        if (a.empty()) return true; // what the whole had not was put on both sides for the cut
        if (b.empty()) return false;
        each(a, b);
        return true;
    };
    bool all = to.uvSets.size() == from.uvSets.size() && to.morphs.size() == from.morphs.size();
    all = all && both(to.positions, from.positions) && both(to.normals, from.normals) &&
          both(to.tangents, from.tangents) && both(to.colours, from.colours) &&
          both(to.joints, from.joints) && both(to.weights, from.weights);
    for (std::size_t s = 0; all && s < to.uvSets.size(); ++s) all = both(to.uvSets[s], from.uvSets[s]);
    for (std::size_t m = 0; all && m < to.morphs.size(); ++m)
        all = both(to.morphs[m].positions, from.morphs[m].positions) &&
              both(to.morphs[m].normals, from.morphs[m].normals);
    return all;
}

bool isAsCut(const Mesh& mesh, const Cut::Side& side) {
    return mesh.triangleCount() == side.triangles.size() && topologyHash(mesh) == side.topology;
}

/// Writes what a side has over the whole's corners; false where it has other kinds of values.
bool writeOver(Mesh& whole, const Mesh& side, const std::vector<std::uint32_t>& triangles) {
    return forEachList(whole, side, [&](auto& to, const auto& from) {
        for (std::size_t t = 0; t < triangles.size(); ++t)
            for (std::size_t k = 0; k < 3; ++k)
                to[whole.indices[3 * std::size_t(triangles[t]) + k]] = from[side.indices[3 * t + k]];
    });
}

/// Places halfway between what both sides say, for corners that both have.
void meetHalfway(Mesh& whole, const Mesh& rest, const Mesh& part, const Cut& cut) {
    std::vector<char> ofRest(whole.vertexCount(), 0), done(whole.vertexCount(), 0);
    std::vector<glm::vec3> were(whole.vertexCount());
    for (std::size_t t = 0; t < cut.rest.triangles.size(); ++t)
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t corner = whole.indices[3 * std::size_t(cut.rest.triangles[t]) + k];
            ofRest[corner] = 1, were[corner] = rest.positions[rest.indices[3 * t + k]];
        }
    for (std::size_t t = 0; t < cut.part.triangles.size(); ++t)
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t corner = whole.indices[3 * std::size_t(cut.part.triangles[t]) + k];
            if (!ofRest[corner] || done[corner]) continue;
            done[corner] = 1;
            whole.positions[corner] = 0.5f * (were[corner] + part.positions[part.indices[3 * t + k]]);
        }
}

/// The whole with what both sides have now; nothing when they cannot be fitted into it any more.
std::optional<Mesh> inOldOrder(const Mesh& rest, const Mesh& part, const Cut& cut, Weld weld) {
    if (!isAsCut(rest, cut.rest) || !isAsCut(part, cut.part)) return std::nullopt;
    Mesh whole = *cut.whole;
    const bool partLast = weld != Weld::Rest;
    const auto write = [&](bool ofPart) {
        return writeOver(whole, ofPart ? part : rest, ofPart ? cut.part.triangles : cut.rest.triangles);
    };
    if (!write(!partLast) || !write(partLast)) return std::nullopt;
    if (weld == Weld::Middle) meetHalfway(whole, rest, part, cut);
    auto worn = triangleWear(whole);
    const auto wear = [&](const Mesh& side, const std::vector<std::uint32_t>& triangles) {
        const auto own = triangleWear(side);
        bool changed = false;
        for (std::size_t t = 0; t < own.size(); ++t)
            changed |= std::exchange(worn[triangles[t]], own[t]) != own[t];
        return changed;
    };
    const bool restChanged = wear(rest, cut.rest.triangles), partChanged = wear(part, cut.part.triangles);
    if (restChanged || partChanged) dress(whole, worn);
    whole.name = rest.name;
    return whole;
}

/// The node that shows the other side of a part's cut, or else the object that it was cut out of.
int homeOf(const Model& model, const CutSide& side) {
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (model.nodes[n].mesh < 0) continue;
        const CutSide& other = model.meshes[std::size_t(model.nodes[n].mesh)]->cut;
        if (other.cut == side.cut && !other.isPart) return int(n);
    }
    const auto byPath = nodesByPath(model);
    const auto named = byPath.find(side.cut->object);
    return named == byPath.end() || model.nodes[std::size_t(named->second)].mesh < 0 ? -1 : named->second;
}

} // namespace

Model joinedBack(const Model& model, const std::vector<char>& wanted, Weld weld,
                 std::vector<std::string>* notes) {
    Model out = model;
    std::vector<char> gone(model.nodes.size(), 0);
    const auto say = [&](std::string text) {
        if (notes) notes->push_back(std::move(text));
    };
    for (std::size_t n = model.nodes.size(); n-- > 0;) { // what was cut out last goes back first
        Node& node = out.nodes[n];
        if (node.mesh < 0 || !wanted[n]) continue;
        const auto part = out.meshes[std::size_t(node.mesh)];
        if (!part->cut.isPart) continue;
        const int home = homeOf(out, part->cut);
        if (home < 0 || home == int(n)) {
            say(fmt::format("\"{}\" stays: \"{}\", which it was cut out of, is gone", node.name,
                            part->cut.cut->object));
            continue;
        }
        Node& host = out.nodes[std::size_t(home)];
        const auto rest = out.meshes[std::size_t(host.mesh)];
        glm::dmat4 toHost(1.0); // exactly, where neither was moved by itself
        const bool asCut = node.parent == home ? node.local == glm::dmat4(1.0)
                                               : node.parent == host.parent && node.local == host.local;
        if (!asCut) {
            const auto world = worldMatrices(out);
            toHost = glm::inverse(world[std::size_t(home)]) * world[n];
            if (!isFinite(toHost)) {
                say(fmt::format("\"{}\" stays: \"{}\" has a scale of zero", node.name, host.name));
                continue;
            }
        }
        const Mesh moved = asCut ? Mesh() : geometry::transformed(*part, toHost);
        const Mesh& here = asCut ? *part : moved;
        auto joined =
            rest->cut.cut == part->cut.cut ? inOldOrder(*rest, here, *part->cut.cut, weld) : std::nullopt;
        if (!joined) {
            joined = geometry::weld(geometry::merged({*rest, here}), 0).mesh;
            joined->name = rest->name;
            joined->cut = rest->cut.cut == part->cut.cut ? CutSide() : rest->cut;
            say(fmt::format("\"{}\" or \"{}\" has other triangles now: it comes behind, and what lies at one "
                            "place is joined",
                            node.name, host.name));
        }
        host.mesh = int(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(*joined)));
        node.mesh = node.skin = -1;
        gone[n] = 1;
    }
    geometry::dropStrayWeightKeys(out);
    // Emptied parts go, unless something hangs on them.
    const auto moving = geometry::movingNodes(model);
    for (std::size_t n = model.nodes.size(); n-- > 0;) {
        gone[n] = gone[n] && !moving[n];
        if (!gone[n] && out.nodes[n].parent >= 0) gone[std::size_t(out.nodes[n].parent)] = 0;
    }
    return geometry::withoutNodes(out, gone);
}

} // namespace zl::selection
