#include "core/steps/colour_to_picture.h"

#include "core/base/pattern.h"
#include "core/base/unique_names.h"
#include "core/geometry/parts.h"
#include "core/model/finite.h"
#include "core/texture/picture_file.h"
#include "core/texture/pixel_values.h"
#include "core/uv/raster.h"
#include "core/uv/uv_faces.h"

#include <algorithm>
#include <cmath>

namespace zl::steps {

namespace {

Pixels plainPicture(const glm::vec4& colour, int edge) {
    Pixels out{edge, edge, std::vector<std::uint8_t>(std::size_t(4) * std::size_t(edge) * std::size_t(edge))};
    for (std::size_t p = 0; p < out.rgba.size(); p += 4)
        texture::putValue(&out.rgba[p], colour, texture::PixelKind::Colours);
    return out;
}

/// Corners' colours drawn at their places on the UVs, `plain` wherever nothing lies. Every pixel that a
/// triangle comes near gets its colour, so that smaller levels do not take in the ground.
Pixels drawnCorners(const Model& model, const uv::UvFaces& faces, int material, const glm::vec4& plain,
                    int edge) {
    Pixels out = plainPicture(plain, edge);
    std::vector<char> drawn(out.rgba.size() / 4, 0);
    const auto draw = [&](const uv::UvFace& face, double grow) {
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[std::size_t(face.node)].mesh)];
        if (mesh.colours.empty()) return;
        std::array<glm::dvec2, 3> at, wide;
        glm::dvec2 least(1e300);
        for (std::size_t k = 0; k < 3; ++k) at[k] = glm::dvec2(face.at[k]), least = glm::min(least, at[k]);
        for (glm::dvec2& corner : at) corner = (corner - glm::floor(least + 1e-6)) * double(edge);
        const glm::dvec2 middle = (at[0] + at[1] + at[2]) / 3.0;
        for (std::size_t k = 0; k < 3; ++k) {
            const glm::dvec2 out = at[k] - middle;
            const double length = glm::length(out);
            wide[k] = length > 0 ? at[k] + out / length * grow : at[k];
        }
        uv::forEachRow(wide, {glm::ivec2(-edge), glm::ivec2(2 * edge)}, [&](int row, int from, int to) {
            for (int x = from; x < to; ++x) {
                const std::size_t pixel =
                    std::size_t((row + edge) % edge) * std::size_t(edge) + std::size_t((x + edge) % edge);
                if (grow > 0 && drawn[pixel] == 1) continue;
                if (grow == 0) drawn[pixel] = 1;
                const glm::dvec3 w = glm::clamp(uv::weightsAt(at, {x + 0.5, row + 0.5}), 0.0, 1.0);
                glm::dvec4 colour(0);
                for (std::size_t k = 0; k < 3; ++k)
                    colour += w[int(k)] *
                              glm::dvec4(mesh.colours[mesh.indices[3 * std::size_t(face.triangle) + k]]);
                texture::putValue(&out.rgba[4 * pixel], glm::vec4(colour / std::max(w.x + w.y + w.z, 1e-9)),
                                  texture::PixelKind::Colours);
            }
        });
    };
    for (const double grow : {0.0, 3.0})
        for (const uv::UvFace& face : faces.faces)
            if (face.material == material) draw(face, grow);
    return out;
}

/// Meshes that show one of `materials` without UVs get a set, all at the picture's middle.
std::size_t layBareOnes(Model& model, const std::vector<char>& materials) {
    std::size_t given = 0;
    for (auto& mesh : model.meshes) {
        const bool bare =
            mesh->uvSets.empty() && std::ranges::any_of(mesh->runs, [&](const MaterialRun& run) {
                return run.material >= 0 && materials[std::size_t(run.material)];
            });
        if (!bare) continue;
        Mesh laid = *mesh;
        laid.uvSets.emplace_back(laid.vertexCount(), glm::vec2(0.5f));
        mesh = std::make_shared<const Mesh>(std::move(laid));
        ++given;
    }
    return given;
}

/// Whether all shown corners of a material have colours and UVs.
std::string whyNotDrawn(const Model& model, const uv::UvFaces& faces, int material) {
    bool any = false;
    for (const uv::UvFace& face : faces.faces) {
        if (face.material != material) continue;
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[std::size_t(face.node)].mesh)];
        if (mesh.colours.empty())
            return fmt::format("the corners of \"{}\" have no colours",
                               model.nodes[std::size_t(face.node)].name);
        any = true;
    }
    return any ? std::string() : "no part that wears it has UVs";
}

} // namespace

Model ColourToPicture::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(of.patterns);
    Model out = in;
    std::vector<char> given(in.materials.size(), 0);
    const uv::UvFaces faces = from == From::Corners ? uv::uvFaces(in) : uv::UvFaces{};
    UniqueNames names;
    for (const auto& image : in.images) names.take(image->name);
    std::size_t count = 0;
    for (const int m : usedMaterials(in)) {
        if (m < 0 || !wanted.match(in.materials[std::size_t(m)].name)) continue;
        Material& material = out.materials[std::size_t(m)];
        if (material.picture(PictureRole::Colour)) continue;
        if (from == From::Corners)
            if (const std::string why = whyNotDrawn(in, faces, m); !why.empty()) {
                context.fellShort(fmt::format("\"{}\" is left as it is: {}", material.name, why));
                continue;
            }
        context.progress.report(double(count) / double(in.materials.size()), "drawing pictures");
        const bool clear = material.alpha != Material::Alpha::Opaque;
        glm::vec4 colour = material.baseColour;
        if (!clear) colour.a = 1;
        Pixels pixels =
            from == From::Corners ? drawnCorners(in, faces, m, colour, edge) : plainPicture(colour, edge);
        const std::string name = names.made((material.name.empty() ? "colour" : material.name) + ".png");
        PictureUse use{.image = int(out.images.size())};
        if (const PictureUse* lies = material.leading())
            use.uvSet = lies->uvSet, use.placement = lies->placement, use.sampler = lies->sampler;
        out.images.push_back(texture::pictureFromPixels(name, std::move(pixels), clear));
        material.wear(PictureRole::Colour, use);
        if (clear) {
            material.baseColour.a = 1;
            use.channel = PictureChannel::Alpha;
            material.picture(PictureRole::Opacity) = use;
        }
        given[std::size_t(m)] = 1;
        ++count;
    }
    const std::size_t laid = layBareOnes(out, given);
    context.note(count == 0 ? std::string("no such material is without a colour picture")
                            : fmt::format("{} got a picture of {} px",
                                          showCount(long(count), "material", "materials"), edge));
    if (laid > 0)
        context.note(fmt::format("{} without UVs lie on its middle", showCount(long(laid), "part", "parts")));
    return out;
}

} // namespace zl::steps
