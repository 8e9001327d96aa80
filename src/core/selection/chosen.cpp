#include "core/selection/chosen.h"

#include "core/base/error.h"
#include "core/base/pattern.h"
#include "core/geometry/world.h"
#include "core/selection/grown.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <optional>

namespace zl::selection {

namespace {

/// Works terms out on one model.
class Finder {
public:
    Finder(const Model& model, const KeptSelections& kept, const Progress& progress)
        : model_(model), kept_(kept), progress_(progress) {}

    Chosen find(const Selection& selection) {
        Chosen sum{std::vector<std::vector<char>>(model_.nodes.size())};
        for (const Term& term : selection.terms) {
            progress_.checkCancel();
            found_ = Chosen{std::vector<std::vector<char>>(model_.nodes.size())};
            std::visit(*this, term.what);
            const Chosen found = std::move(found_);
            for (std::size_t n = 0; n < model_.nodes.size(); ++n) sum.join(n, found.faces[n], term.takesAway);
        }
        for (std::size_t n = 0; n < model_.nodes.size(); ++n)
            if (std::ranges::find(sum.faces[n], 1) == sum.faces[n].end()) sum.faces[n].clear();
        return sum;
    }

    void operator()(const OfParts& of);
    void operator()(const OfMaterials& of);
    void operator()(const OfLooseParts& of);
    void operator()(const OfRegion& of);
    void operator()(const InBox& in);
    void operator()(const OnBone& on);
    void operator()(const OfFaces& of);
    void operator()(const OfNamed& of);

private:
    const Mesh& meshOf(std::size_t node) const {
        return *model_.meshes[std::size_t(model_.nodes[node].mesh)];
    }
    std::vector<char>& marks(std::size_t node) {
        auto& list = found_.faces[node];
        if (list.empty()) list.assign(meshOf(node).triangleCount(), 0);
        return list;
    }
    /// An object on which stored faces hold, and their numbers on it.
    struct Found {
        std::size_t node;
        const std::vector<std::uint32_t>* faces;
    };
    Found foundOn(const StoredFaces& stored);
    void put(const StoredFaces& stored);

    const Model& model_;
    const KeptSelections& kept_;
    const Progress& progress_;
    Chosen found_;
    std::map<NodePath, int, std::less<>> byPath_; ///< filled when first asked
    std::multimap<Hash, std::size_t> byTopology_;
    std::map<std::string, std::optional<Chosen>, std::less<>>
        named_; ///< kept selections; nothing for one that is being worked out
};

void Finder::operator()(const OfParts& of) {
    const NamePatterns wanted(of.names);
    for (std::size_t n = 0; n < model_.nodes.size() && !of.names.empty(); ++n)
        if (model_.nodes[n].mesh >= 0 && wanted.match(model_.nodes[n].name)) std::ranges::fill(marks(n), 1);
    if (!of.paths.empty() && byPath_.empty()) byPath_ = nodesByPath(model_);
    for (const NodePath& path : of.paths)
        if (const auto found = byPath_.find(path);
            found != byPath_.end() && model_.nodes[std::size_t(found->second)].mesh >= 0)
            std::ranges::fill(marks(std::size_t(found->second)), 1);
}

void Finder::operator()(const OfMaterials& of) {
    const NamePatterns wanted(of.names);
    std::vector<char> is(model_.materials.size(), 0);
    if (!of.names.empty())
        for (std::size_t m = 0; m < is.size(); ++m) is[m] = wanted.match(model_.materials[m].name);
    for (std::size_t n = 0; n < model_.nodes.size(); ++n) {
        if (model_.nodes[n].mesh < 0) continue;
        for (const MaterialRun& run : meshOf(n).runs)
            if (run.material >= 0 && is[std::size_t(run.material)])
                std::fill_n(marks(n).begin() + run.firstTriangle, run.triangleCount, char(1));
    }
}

Finder::Found Finder::foundOn(const StoredFaces& stored) {
    if (byPath_.empty()) byPath_ = nodesByPath(model_);
    if (const auto named = byPath_.find(stored.object);
        named != byPath_.end() && model_.nodes[std::size_t(named->second)].mesh >= 0) {
        const auto node = std::size_t(named->second);
        if (const auto* faces = stored.on(topologyHash(meshOf(node)))) return {node, faces};
        throw Error(
            fmt::format("faces were chosen on another \"{}\": its triangles are numbered otherwise now",
                        stored.object),
            {}, "Choose them anew, or move this step before the one that changes its triangles.");
    }
    if (byTopology_.empty())
        for (std::size_t n = 0; n < model_.nodes.size(); ++n)
            if (model_.nodes[n].mesh >= 0) byTopology_.emplace(topologyHash(meshOf(n)), n);
    std::vector<Found> found; // a twin may be called otherwise
    const auto add = [&](Hash topology, const std::vector<std::uint32_t>& faces) {
        const auto [first, last] = byTopology_.equal_range(topology);
        for (auto at = first; at != last; ++at) found.push_back({at->second, &faces});
    };
    add(stored.topology, stored.faces);
    for (const auto& other : stored.others) add(other.topology, other.faces);
    if (found.size() == 1) return found.front();
    throw Error(fmt::format("faces were chosen on \"{}\", which is not there", stored.object), {},
                found.empty() ? "Choose them anew." : "Several objects could be meant; choose them anew.");
}

void Finder::put(const StoredFaces& stored) {
    const Found found = foundOn(stored);
    auto& list = marks(found.node);
    for (const std::uint32_t face : *found.faces) {
        if (face >= list.size())
            throw Error(fmt::format("\"{}\" has no triangle {}", stored.object, face), {},
                        "Choose the faces anew.");
        list[face] = 1;
    }
}

void Finder::operator()(const OfFaces& of) {
    put(of.stored);
}

void Finder::operator()(const OfLooseParts& of) {
    put(of.from);
    for (std::size_t n = 0; n < model_.nodes.size(); ++n)
        if (!found_.faces[n].empty())
            found_.faces[n] = grownToLooseParts(meshOf(n), std::move(found_.faces[n]));
}

void Finder::operator()(const OfRegion& of) {
    put(of.from);
    for (std::size_t n = 0; n < model_.nodes.size(); ++n)
        if (!found_.faces[n].empty())
            found_.faces[n] = grownToCreases(meshOf(n), std::move(found_.faces[n]), of.angle);
}

void Finder::operator()(const InBox& in) {
    geometry::forEachShownMesh(model_, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        auto& list = marks(std::size_t(node));
        for (std::size_t t = 0; t < list.size(); ++t) {
            glm::dvec3 middle(0);
            for (std::size_t k = 0; k < 3; ++k) middle += glm::dvec3(mesh.positions[mesh.indices[3 * t + k]]);
            const glm::dvec3 at(toWorld * glm::dvec4(middle / 3.0, 1));
            list[t] =
                glm::all(glm::greaterThanEqual(at, in.least)) && glm::all(glm::lessThanEqual(at, in.most));
        }
    });
}

void Finder::operator()(const OnBone& on) {
    bool known = false;
    for (std::size_t n = 0; n < model_.nodes.size(); ++n) {
        const Node& node = model_.nodes[n];
        if (node.mesh < 0 || node.skin < 0) continue;
        const Mesh& mesh = meshOf(n);
        const auto& joints = model_.skins[std::size_t(node.skin)].joints;
        std::vector<char> isBone(joints.size(), 0);
        for (std::size_t j = 0; j < joints.size(); ++j)
            isBone[j] = model_.nodes[std::size_t(joints[j])].name == on.bone;
        if (std::ranges::find(isBone, 1) == isBone.end()) continue;
        known = true;
        if (mesh.joints.empty()) continue;
        const auto weightAt = [&](std::uint32_t v) {
            double sum = 0;
            for (int k = 0; k < 4; ++k)
                if (isBone[mesh.joints[v][k]]) sum += mesh.weights[v][k];
            return sum;
        };
        auto& list = marks(n);
        for (std::size_t t = 0; t < list.size(); ++t) {
            double sum = 0;
            for (std::size_t k = 0; k < 3; ++k) sum += weightAt(mesh.indices[3 * t + k]);
            list[t] = sum / 3 >= on.weight;
        }
    }
    if (!known)
        throw Error(fmt::format("there is no bone \"{}\" that anything hangs on", on.bone), {},
                    "Choose another bone.");
}

void Finder::operator()(const OfNamed& of) {
    const Selection* selection = kept_ ? kept_(of.name) : nullptr;
    if (!selection)
        throw Error(fmt::format("there is no selection called \"{}\"", of.name), {},
                    "Choose another, or keep one under this name.");
    const auto [done, fresh] = named_.try_emplace(of.name);
    if (!fresh && !done->second)
        throw Error(fmt::format("the selection \"{}\" uses itself", of.name), {},
                    "Take one of its terms out.");
    if (fresh) {
        Chosen found = find(*selection);
        done->second = std::move(found);
    }
    found_ = *done->second;
}

} // namespace

std::size_t Chosen::countOf(std::size_t node) const {
    return node < faces.size() ? std::size_t(std::ranges::count(faces[node], 1)) : 0;
}

std::vector<std::uint32_t> Chosen::trianglesOf(std::size_t node, bool marked) const {
    std::vector<std::uint32_t> out;
    for (std::uint32_t t = 0; t < faces[node].size(); ++t)
        if (bool(faces[node][t]) == marked) out.push_back(t);
    return out;
}

std::size_t Chosen::count() const {
    std::size_t sum = 0;
    for (std::size_t n = 0; n < faces.size(); ++n) sum += countOf(n);
    return sum;
}

void Chosen::join(std::size_t node, const std::vector<char>& marks, bool takesAway) {
    auto& list = faces[node];
    if (list.empty()) list.assign(marks.size(), 0);
    for (std::size_t t = 0; t < marks.size(); ++t)
        if (marks[t]) list[t] = !takesAway;
}

bool Chosen::isWhole(const Model& model, std::size_t node) const {
    const int mesh = model.nodes[node].mesh;
    return mesh >= 0 && node < faces.size() && !faces[node].empty() &&
           countOf(node) == model.meshes[std::size_t(mesh)]->triangleCount();
}

Hash topologyHash(const Mesh& mesh) {
    const std::uint64_t corners = mesh.vertexCount();
    return hashBytes(mesh.indices.data(), mesh.indices.size() * sizeof(std::uint32_t),
                     hashBytes(&corners, sizeof corners));
}

Chosen chosen(const Model& model, const Selection& selection, const KeptSelections& kept,
              const Progress& progress) {
    return Finder(model, kept, progress).find(selection);
}

Selection stored(const Model& model, const Chosen& chosen) {
    Selection out;
    OfParts whole;
    const auto paths = nodePaths(model);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (chosen.countOf(n) == 0) continue;
        if (chosen.isWhole(model, n)) {
            whole.paths.push_back(paths[n]);
            continue;
        }
        StoredFaces faces{paths[n], topologyHash(*model.meshes[std::size_t(model.nodes[n].mesh)]),
                          chosen.trianglesOf(n, true)};
        out.terms.push_back({OfFaces{std::move(faces)}, false});
    }
    if (!whole.paths.empty()) out.terms.insert(out.terms.begin(), Term{std::move(whole), false});
    return out;
}

} // namespace zl::selection
