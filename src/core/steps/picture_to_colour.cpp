#include "core/steps/colour_to_picture.h"

#include "core/base/pattern.h"
#include "core/geometry/corners_apart.h"
#include "core/geometry/parts.h"
#include "core/model/finite.h"
#include "core/model/used_only.h"
#include "core/texture/worn_look.h"
#include "core/uv/uv_faces.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::steps {

namespace {

/// The mean of a look over the triangles that wear it, by area; its alpha too.
class MeanColour {
public:
    void add(const texture::WornLook& look, const uv::UvFace& face) {
        constexpr int across = 4; // sixteen points, at the middles of as many small triangles
        glm::dvec4 sum(0);
        int points = 0;
        for (int i = 0; i < across; ++i)
            for (int j = 0; j < 2 * (across - i) - 1; ++j, ++points) {
                const bool upward = j % 2 == 0;
                const double v = (double(i) + (upward ? 1 : 2) / 3.0) / across,
                             w = (double(j / 2) + (upward ? 1 : 2) / 3.0) / across;
                sum += glm::dvec4(look.colour(glm::vec2(1 - v - w) * face.at[0] + float(v) * face.at[1] +
                                              float(w) * face.at[2]));
            }
        const double weight = std::max(double(face.area), 1e-30);
        sum_ += sum / double(points) * weight, weight_ += weight;
    }
    glm::vec4 mean() const { return glm::vec4(sum_ / std::max(weight_, 1e-30)); }
    bool any() const { return weight_ > 0; }

private:
    glm::dvec4 sum_{0};
    double weight_ = 0;
};

/// The mesh with a colour a corner, of the looks that its triangles wear; others keep theirs, or white.
Mesh coloured(const Mesh& mesh, const std::map<int, texture::WornLook>& looks) {
    const auto materials = triangleMaterials(mesh);
    std::vector<int> kind(materials);
    for (int& k : kind) k = looks.contains(k) ? k + 1 : 0;
    Mesh out = geometry::cornersInOrder(mesh, kind);
    if (out.colours.empty()) out.colours.assign(out.vertexCount(), glm::vec4(1));
    std::vector<char> done(out.vertexCount(), 0);
    for (std::size_t c = 0; c < out.indices.size(); ++c) {
        const std::uint32_t v = out.indices[c];
        const auto look = looks.find(materials[c / 3]);
        if (look == looks.end() || done[v]) continue;
        done[v] = 1;
        const PictureUse& use = *look->second.leading();
        if (std::size_t(use.uvSet) >= out.uvSets.size()) continue;
        const glm::vec2 at = use.placement.of(out.uvSets[std::size_t(use.uvSet)][v]);
        out.colours[v] *= look->second.colour(isFinite(at) ? at : glm::vec2(0));
    }
    return out;
}

} // namespace

Model PictureToColour::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(of.patterns);
    Model out = in;
    std::map<int, texture::WornLook> looks;
    for (const int m : usedMaterials(in))
        if (m >= 0 && wanted.match(in.materials[std::size_t(m)].name) &&
            in.materials[std::size_t(m)].picture(PictureRole::Colour)) {
            texture::WornLook& look = looks.try_emplace(m, in.materials[std::size_t(m)], in).first->second;
            look.decode({512, 512});
        }
    if (looks.empty()) {
        context.note("no such material has a colour picture");
        return in;
    }
    if (to == To::Plain) {
        std::map<int, MeanColour> means;
        const uv::UvFaces faces = uv::uvFaces(in);
        for (const uv::UvFace& face : faces.faces)
            if (const auto look = looks.find(face.material); look != looks.end())
                means[face.material].add(look->second, face);
        for (const auto& [m, look] : looks) {
            const MeanColour& mean = means[m];
            if (mean.any()) out.materials[std::size_t(m)].baseColour = mean.mean();
        }
    } else {
        for (std::size_t i = 0; i < out.meshes.size(); ++i)
            if (std::ranges::any_of(out.meshes[i]->runs,
                                    [&](const MaterialRun& run) { return looks.contains(run.material); }))
                out.meshes[i] = std::make_shared<const Mesh>(coloured(*out.meshes[i], looks));
        for (const auto& [m, look] : looks) out.materials[std::size_t(m)].baseColour = glm::vec4(1);
    }
    for (const auto& [m, look] : looks) {
        Material& material = out.materials[std::size_t(m)];
        const int image = material.image(PictureRole::Colour);
        material.picture(PictureRole::Colour) = {};
        if (material.image(PictureRole::Opacity) == image) material.picture(PictureRole::Opacity) = {};
    }
    context.note(fmt::format("{} {}", showCount(long(looks.size()), "material is", "materials are"),
                             to == To::Plain ? "one colour each, without a picture"
                                             : "coloured at the corners, without a picture"));
    return out;
}

} // namespace zl::steps
