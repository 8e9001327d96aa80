#include "core/chain/put_back.h"

#include "core/geometry/extract.h"

#include <algorithm>

namespace zl::chain {

namespace {

glm::dvec3 middleOf(const Mesh& mesh, std::size_t t) {
    return (glm::dvec3(mesh.positions[mesh.indices[3 * t]]) +
            glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) +
            glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]])) /
           3.0;
}

/// Whether both hold the same triangles in the same order.
bool sameTriangles(const Mesh& a, const Mesh& b) {
    if (a.triangleCount() != b.triangleCount()) return false;
    const double tolerance = 1e-4 * std::max(1e-9, glm::length(geometry::meshBounds(a).size()));
    for (std::size_t t = 0; t < a.triangleCount(); ++t)
        if (glm::distance(middleOf(a, t), middleOf(b, t)) > tolerance) return false;
    return true;
}

/// The one melted mesh cut into the original's objects, with their names and materials.
Model withObjectsOf(const Model& original, const Model& came) {
    std::vector<int> nodeOf;
    const Mesh from = geometry::flattened(original, &nodeOf), to = geometry::flattened(came);
    if (!sameTriangles(from, to)) return came;
    Model out = came;
    out.nodes.clear(), out.meshes.clear();
    const bool noMaterials = usedMaterials(came) == std::vector<int>{-1};
    if (noMaterials) out.materials = original.materials, out.images = original.images;
    const auto worn = triangleWear(noMaterials ? from : to);
    const glm::dmat4 fromWorld = glm::inverse(out.placement);
    for (std::size_t first = 0; first < nodeOf.size();) {
        std::size_t last = first;
        while (last < nodeOf.size() && nodeOf[last] == nodeOf[first]) ++last;
        Mesh part = geometry::transformed(
            geometry::extracted(to, worn, [&](std::size_t t) { return t >= first && t < last; }), fromWorld);
        part.name = original.nodes[nodeOf[first]].name;
        out.nodes.push_back({part.name, -1, glm::dmat4(1.0), int(out.meshes.size())});
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(part)));
        first = last;
    }
    return out;
}

/// Whether objects come in the same order with the same runs of triangles.
bool sameParts(const Model& original, const std::vector<int>& originals, const Model& came,
               const std::vector<int>& shown) {
    if (shown.size() != originals.size()) return false;
    for (std::size_t i = 0; i < shown.size(); ++i) {
        const auto &a = original.meshes[original.nodes[originals[i]].mesh]->runs,
                   &b = came.meshes[came.nodes[shown[i]].mesh]->runs;
        if (!std::ranges::equal(a, b, {}, &MaterialRun::triangleCount, &MaterialRun::triangleCount))
            return false;
    }
    return true;
}

} // namespace

Model putBack(const Model& original, Model came, const SourceFrame& frame) {
    // A file that says its frame was read with it; saying it again changes nothing then.
    if (came.frame.unitAssumed || came.frame.upAssumed) {
        SourceFrame known = frame;
        known.unitAssumed = known.upAssumed = false;
        came = withFrame(std::move(came), known);
    }
    const auto originals = shownNodes(original);
    if (objectCount(came) != originals.size()) came = withObjectsOf(original, came);
    const auto shown = shownNodes(came);
    if (shown.size() == originals.size()) {
        bool same = true; // by their triangles, in order
        for (std::size_t i = 0; i < shown.size(); ++i)
            same &= came.meshes[came.nodes[shown[i]].mesh]->triangleCount() ==
                    original.meshes[original.nodes[originals[i]].mesh]->triangleCount();
        if (same)
            for (std::size_t i = 0; i < shown.size(); ++i)
                came.nodes[shown[i]].name = original.nodes[originals[i]].name;
    }
    if (sameParts(original, originals, came, shown)) {
        // Every run of triangles is the one it was: it wears what it wore.
        came.materials = original.materials, came.images = original.images;
        for (std::size_t i = 0; i < shown.size(); ++i) {
            auto copy = std::make_shared<Mesh>(*came.meshes[came.nodes[shown[i]].mesh]);
            const Mesh& known = *original.meshes[original.nodes[originals[i]].mesh];
            for (std::size_t p = 0; p < copy->runs.size(); ++p)
                copy->runs[p].material = known.runs[p].material;
            came.meshes[came.nodes[shown[i]].mesh] = std::move(copy);
        }
        return came;
    }
    // Materials that kept their number and order get their names back, then pictures by name.
    const auto used = usedMaterials(came), wanted = usedMaterials(original);
    if (used.size() == wanted.size())
        for (std::size_t i = 0; i < used.size(); ++i)
            if (used[i] >= 0 && wanted[i] >= 0)
                came.materials[used[i]].name = original.materials[wanted[i]].name;
    for (Material& material : came.materials) {
        PictureUse& colour = material.picture(PictureRole::Colour);
        if (colour) continue;
        for (const Material& known : original.materials) {
            if (known.name != material.name || known.image(PictureRole::Colour) < 0) continue;
            material.baseColour = known.baseColour;
            colour.image = int(came.images.size());
            came.images.push_back(original.images[known.image(PictureRole::Colour)]);
            break;
        }
    }
    return came;
}

} // namespace zl::chain
