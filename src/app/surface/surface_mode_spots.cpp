// The same spot in the model and in its picture, whichever of the two the pointer is over.
#include "app/surface/surface_mode.h"

#include "core/uv/raster.h"

namespace zl::app {

namespace {

bool isInside(const uv::UvFace& face, glm::dvec2 at) {
    const glm::dvec3 w =
        uv::weightsAt({glm::dvec2(face.at[0]), glm::dvec2(face.at[1]), glm::dvec2(face.at[2])}, at);
    return w.x >= 0 && w.y >= 0 && w.z >= 0;
}

/// The face of a material that lies on a place of its picture, which repeats, and where it lies there.
std::optional<std::pair<std::uint32_t, glm::dvec2>> faceAt(const SurfaceLook& look, int material,
                                                           glm::dvec2 uv) {
    uv -= glm::floor(uv);
    for (std::uint32_t f = 0; f < look.faces.faces.size(); ++f) {
        const uv::UvFace& face = look.faces.faces[f];
        if (face.material != material) continue;
        const glm::dvec2 least = glm::min(glm::min(face.at[0], face.at[1]), face.at[2]),
                         most = glm::max(glm::max(face.at[0], face.at[1]), face.at[2]);
        const glm::dvec2 first = glm::ceil(least - uv), last = glm::min(glm::floor(most - uv), first + 8.0);
        for (double x = first.x; x <= last.x; ++x)
            for (double y = first.y; y <= last.y; ++y)
                if (isInside(face, uv + glm::dvec2(x, y))) return std::pair(f, uv + glm::dvec2(x, y));
    }
    return std::nullopt;
}

} // namespace

void SurfaceMode::pointAtModel(std::optional<QPointF> uv) {
    if (!parts_.model.isVisible() || sight() == SurfaceSight::Model) return;
    parts_.model.spots().spot.reset();
    const MaterialLook* one = material();
    if (uv && one)
        if (const auto found = faceAt(*look_, one->index, {uv->x(), uv->y()})) {
            const uv::UvFace& face = look_->faces.faces[found->first];
            const glm::dvec3 w = uv::weightsAt(
                {glm::dvec2(face.at[0]), glm::dvec2(face.at[1]), glm::dvec2(face.at[2])}, found->second);
            const Mesh& mesh =
                *look_->model.meshes[std::size_t(look_->model.nodes[std::size_t(face.node)].mesh)];
            const glm::dmat4 world = worldMatrices(look_->model)[std::size_t(face.node)];
            glm::dvec3 at(0);
            for (std::size_t k = 0; k < 3; ++k)
                at += w[int(k)] *
                      glm::dvec3(
                          world *
                          glm::dvec4(mesh.positions[mesh.indices[3 * std::size_t(face.triangle) + k]], 1));
            parts_.model.spots().spot = at;
        }
    parts_.model.repaintOver();
}

void SurfaceMode::pointAtPicture(const std::optional<Pick>& pick) {
    const auto scene = parts_.model.restScene();
    const MaterialLook* one = material();
    std::optional<QPointF> spot;
    if (pick && scene && one && !scene->mesh.uvSets.empty() &&
        scene->materialOfTriangle[pick->triangle] == one->index) {
        const std::uint32_t* c = &scene->mesh.indices[3 * std::size_t(pick->triangle)];
        const auto& p = scene->mesh.positions;
        const glm::dvec3 a(p[c[0]]), b = glm::dvec3(p[c[1]]) - a, d = glm::dvec3(p[c[2]]) - a,
                                     q = pick->at - a;
        const double bb = glm::dot(b, b), bd = glm::dot(b, d), dd = glm::dot(d, d), rest = bb * dd - bd * bd;
        if (rest > 0) {
            const double v = (dd * glm::dot(q, b) - bd * glm::dot(q, d)) / rest,
                         w = (bb * glm::dot(q, d) - bd * glm::dot(q, b)) / rest;
            const auto& uv = scene->mesh.uvSets[0];
            const glm::dvec2 there =
                (1 - v - w) * glm::dvec2(uv[c[0]]) + v * glm::dvec2(uv[c[1]]) + w * glm::dvec2(uv[c[2]]);
            spot = QPointF(there.x, there.y);
        }
    }
    parts_.view.canvas().setSpot(spot);
}

void SurfaceMode::selectPartAt(const QPointF& uv) {
    const MaterialLook* one = material();
    if (!one || sight() != SurfaceSight::UvLayout) return;
    const auto found = faceAt(*look_, one->index, {uv.x(), uv.y()});
    if (!found) return parts_.selected.clear();
    parts_.selected.setParts({nodePaths(look_->model)[std::size_t(look_->faces.faces[found->first].node)]});
}

} // namespace zl::app
