#pragma once
#include "core/texture/picture_file.h"
#include "support/shapes.h"

/// PNG bytes of one grey.
inline std::string png(int width, int height, std::uint8_t grey = 130) {
    return zl::texture::encodePng(
        {width, height, std::vector<std::uint8_t>(std::size_t(4) * width * height, grey)});
}

/// A small model that uses all that formats hold: two materials and faces without one, a picture, normals,
/// UVs, colours, bones, morph targets with normals, a clip of turns and one of morph weights, a hierarchy.
inline zl::Model richModel() {
    using namespace zl;
    Model model = shapes::modelOf(shapes::sphere(6, 4), "bell");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    const auto triangles = std::uint32_t(mesh->triangleCount());
    mesh->runs = {{0, 10, 0}, {10, triangles - 14, 1}, {triangles - 4, 4, -1}};
    mesh->normals = mesh->positions;
    mesh->colours.assign(mesh->vertexCount(), glm::vec4(0.5f, 0.25f, 1, 1));
    mesh->joints.assign(mesh->vertexCount(), glm::u16vec4(0, 1, 0, 0));
    mesh->weights.assign(mesh->vertexCount(), glm::vec4(0.25f, 0.75f, 0, 0));
    mesh->morphs.push_back({"swell", mesh->positions, mesh->positions});
    model.meshes[0] = mesh;
    model.images = {texture::pictureFromBytes("bronze.png", png(4, 4))};
    model.materials = {{.name = "bronze"}, {.name = "rope"}};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    model.nodes.push_back({"yoke", -1, glm::dmat4(1.0)});
    model.nodes.push_back({"clapper", 1, glm::dmat4(1.0)});
    model.skins.push_back({"rig", {1, 2}, {glm::mat4(1), glm::mat4(1)}, 1});
    model.nodes[0].skin = 0;
    model.clips.push_back(std::make_shared<const Clip>(
        Clip{"swing",
             {{2, Channel::Target::Rotation, Channel::Curve::Linear, {0, 1}, {0, 0, 0, 1, 0, 0, 1, 0}},
              {0, Channel::Target::Weights, Channel::Curve::Linear, {0, 1}, {0, 1}}}}));
    return model;
}
