#include "core/deliver/solid_scene.h"

#include "core/base/error.h"
#include "core/formats/scene_file.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

#include <cmath>

namespace zl::deliver {

namespace {

struct Moved {
    glm::dvec3 at{0};
    glm::dquat turn{1, 0, 0, 0};
    double scale = 1;
};

/// A move, a turn and an even growth; Refused for anything else.
Moved movedBy(const glm::dmat4& by, const std::string& what) {
    const glm::dmat3 m(by);
    const glm::dvec3 lengths(glm::length(m[0]), glm::length(m[1]), glm::length(m[2]));
    constexpr double within = 1e-6;
    const double even = lengths.x;
    const bool square =
        std::abs(glm::dot(m[0], m[1])) + std::abs(glm::dot(m[1], m[2])) + std::abs(glm::dot(m[2], m[0])) <
        within * even * even;
    if (!(even > 0) || std::abs(lengths.y - even) > within * even ||
        std::abs(lengths.z - even) > within * even || !square || glm::determinant(m) <= 0)
        throw Refused("is stretched, sheared or mirrored by a step", what,
                      "Give it another size in its scene instead.");
    return {glm::dvec3(by[3]), glm::normalize(glm::quat_cast(m / even)), even};
}

} // namespace

solids::Scene placedScene(const Model& model, const solids::Shown& shown) {
    solids::Scene out = shown.scene;
    const std::vector<int> nodes = solids::nodesOf(model);
    const std::vector<glm::dmat4> world = worldMatrices(model);
    for (std::size_t p = 0; p < shown.parts.size(); ++p) {
        solids::Solid& solid = out.solids.at(shown.parts[p].solid);
        const glm::dmat4& now = world[std::size_t(nodes[p])];
        if (now == solids::placeOf(solid.at, solid.turn)) continue; // its own numbers say it best
        const Moved moved = movedBy(now, model.nodes[std::size_t(nodes[p])].name);
        solid.at = moved.at, solid.turn = solids::degreesOf(moved.turn), solid.shape.size *= moved.scale;
    }
    if (model.placement == glm::dmat4(1)) return out;
    const Moved moved = movedBy(model.placement, model.name);
    for (auto& [number, light] : out.lights) {
        light.at = glm::dvec3(model.placement * glm::dvec4(light.at, 1));
        light.turn = solids::degreesOf(moved.turn * solids::turned(light.turn));
        if (light.kind == solids::LightKind::Sun) continue;
        light.size *= moved.scale;
        light.strength *= moved.scale * moved.scale; // as bright on what has grown along with it
    }
    return out;
}

std::vector<OutFile> solidSceneFiles(const Model& model, const solids::Shown& shown,
                                     const platform::Sheet& sheet, const std::string& name,
                                     const Progress& progress) {
    formats::SceneFile file{name, placedScene(model, shown), shown.lit};
    std::vector<OutFile> pictures;
    std::map<int, std::string> named; ///< by image
    for (std::size_t p = 0; p < shown.parts.size(); ++p) {
        progress.report(double(p) / double(shown.parts.size()), "writing pictures");
        const solids::Part& part = shown.parts[p];
        solids::Solid& solid = file.scene.solids.at(part.solid);
        for (std::size_t r = 0; r < part.faces.size(); ++r) {
            const int face = part.faces[r], material = part.mesh->runs[r].material;
            const Material& worn = model.materials[std::size_t(material)];
            const bool lit = worn.picture(PictureRole::Emission) && shown.lit;
            const PictureUse& use = worn.picture(lit ? PictureRole::Emission : PictureRole::Colour);
            solids::Look look = solid.lookOf(face);
            look.picture.clear();
            if (use) {
                std::string& called = named[use.image];
                if (called.empty()) {
                    const auto bytes = texture::encodedOf(model.images[std::size_t(use.image)]);
                    const auto* format = texture::pictureFormatOf(*bytes);
                    called = fileNameFrom(fmt::format("{}-{}-{}", name, part.solid, face)) +
                             std::string(format ? format->extension : ".png");
                    pictures.push_back({called, *bytes});
                }
                look.picture = called;
                look.placement = use.placement;
            }
            if (look != solid.lookOf(face)) solid.faces[face] = look;
        }
    }
    std::vector<OutFile> out{
        {fileNameFrom(name) + ".scene.xml", formats::writeScene(file, sheet.up, sheet.front)}};
    out.insert(out.end(), std::make_move_iterator(pictures.begin()), std::make_move_iterator(pictures.end()));
    return out;
}

} // namespace zl::deliver
