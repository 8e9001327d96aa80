#include "core/uv/relief.h"

#include "core/base/error.h"
#include "core/geometry/normals.h"
#include "core/geometry/world.h"
#include "core/texture/picture_cache.h"
#include "core/texture/sample.h"

#include <tbb/parallel_for.h>

#include <cmath>
#include <map>

namespace zl::uv {

namespace {

/// A height picture as it is looked up.
struct Heights {
    PictureUse use;
    std::shared_ptr<const Pixels> pixels;
    double mean = 0; ///< 0–1
};

/// The height pictures of the materials that have one which says something; a broken one is none.
std::map<int, Heights> heightsOf(const Model& model) {
    std::map<int, Heights> out;
    for (const int m : usedMaterials(model)) {
        if (m < 0) continue;
        const PictureUse& use = model.materials[std::size_t(m)].picture(PictureRole::Height);
        if (!use) continue;
        try {
            const auto& image = model.images[std::size_t(use.image)];
            const auto facts = texture::channelFactsOf(image);
            if (facts->of(use.channel).isOneValue()) continue;
            out[m] = {use, texture::pixelsOf(image), facts->of(use.channel).mean / 255};
            out[m].use.sampler.smooth = false; // what lies between pixels says nothing of its own
        } catch (const Error&) {
            continue;
        }
    }
    return out;
}

/// Points spread evenly over a triangle, as weights: the R2 sequence (Roberts 2018), folded.
glm::vec3 pointIn(int i) {
    float u = std::fmod(0.5f + float(i) * 0.7548776662f, 1.0f),
          v = std::fmod(0.5f + float(i) * 0.5698402910f, 1.0f);
    if (u + v > 1) u = 1 - u, v = 1 - v;
    return {1 - u - v, u, v};
}

/// The mean distance of a triangle's heights from their picture's mean.
double reliefOn(const Heights& heights, const std::array<glm::vec2, 3>& at) {
    const glm::dvec2 size(heights.pixels->width, heights.pixels->height);
    const glm::dvec2 b = glm::dvec2(at[1] - at[0]) * size, c = glm::dvec2(at[2] - at[0]) * size;
    const double texels = 0.5 * std::abs(b.x * c.y - b.y * c.x);
    const int points = int(std::clamp(texels, 12.0, 256.0));
    double sum = 0;
    for (int i = 0; i < points; ++i) {
        const glm::vec3 w = pointIn(i);
        const glm::vec4 pixel = texture::sampled(*heights.pixels, w.x * at[0] + w.y * at[1] + w.z * at[2],
                                                 heights.use.sampler, false);
        sum += std::abs(double(texture::channelOf(pixel, heights.use.channel)) - heights.mean);
    }
    return sum / points;
}

} // namespace

std::vector<float> bendOf(const Mesh& mesh, const glm::dmat4& toWorld) {
    const Mesh own = mesh.normals.empty() ? geometry::withNormals(mesh) : Mesh{};
    const Mesh& shaded = mesh.normals.empty() ? own : mesh;
    const glm::dmat3 turned = geometry::normalMatrixOf(glm::dmat3(toWorld)), linear(toWorld);
    std::vector<float> out(mesh.triangleCount(), 0.0f);
    tbb::parallel_for(std::size_t(0), out.size(), [&](std::size_t t) {
        glm::dvec3 place[3], normal[3];
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t v = shaded.indices[3 * t + k];
            place[k] = linear * glm::dvec3(shaded.positions[v]);
            normal[k] = turned * glm::dvec3(shaded.normals[v]);
        }
        double most = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t n = (k + 1) % 3;
            const double length = glm::length(place[n] - place[k]);
            const double angle =
                std::atan2(glm::length(glm::cross(normal[k], normal[n])), glm::dot(normal[k], normal[n]));
            if (length > 0 && std::isfinite(angle)) most = std::max(most, angle / length);
        }
        out[t] = float(most);
    });
    return out;
}

Relief reliefOf(const Model& model, const UvFaces& faces, double bend) {
    Relief out;
    const auto heights = heightsOf(model);
    out.any = !heights.empty();
    if (!out.any) return out;
    const auto world = worldMatrices(model);
    std::vector<float> bends;
    int bendsOf = -1;
    double all = 0, curved = 0;
    for (std::uint32_t f = 0; f < faces.faces.size(); ++f) {
        const UvFace& face = faces.faces[f];
        const auto found = heights.find(face.material);
        if (found == heights.end()) continue;
        if (bendsOf != face.node) {
            const Node& node = model.nodes[std::size_t(face.node)];
            bends = bendOf(*model.meshes[std::size_t(node.mesh)], world[std::size_t(face.node)]);
            bendsOf = face.node;
        }
        const double relief = reliefOn(found->second, face.at) * face.area;
        all += relief;
        if (bends[face.triangle] < bend || relief == 0) continue;
        curved += relief;
        out.faces.push_back(f);
    }
    if (all > 0) out.onCurves = curved / all;
    return out;
}

} // namespace zl::uv
