#pragma once
#include "core/texture/picture_file.h"
#include "support/shapes.h"

#include <random>

/// Pixels that are all chance, alpha too.
inline zl::Pixels noise(int width, int height, unsigned seed) {
    std::mt19937 random(seed);
    zl::Pixels out{width, height, {}};
    for (int i = 0; i < 4 * width * height; ++i) out.rgba.push_back(std::uint8_t(random() % 256));
    return out;
}

/// A ball in one material that wears random pictures in all roles that Saltbranch's pictures are made of.
inline zl::Model ballInPictures(int edge, unsigned seed) {
    using namespace zl;
    Model model = shapes::modelOf(shapes::sphere(12, 8), "ball");
    model.materials = {{.name = "rope"}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, std::uint32_t(mesh->triangleCount()), 0}};
    if (mesh->uvSets.empty()) {
        mesh->uvSets.emplace_back();
        for (const glm::vec3& p : mesh->positions) mesh->uvSets[0].push_back({p.x, p.z});
    }
    model.meshes[0] = mesh;
    for (const PictureRole role :
         {PictureRole::Colour, PictureRole::Normal, PictureRole::Height, PictureRole::Roughness,
          PictureRole::Occlusion, PictureRole::Emission, PictureRole::Metalness}) {
        model.materials[0].wear(role,
                                {.image = int(model.images.size()),
                                 .channel = isScalar(role) ? PictureChannel::Green : PictureChannel::Colour});
        model.images.push_back(texture::pictureFromPixels(std::string(roleName(role)) + ".png",
                                                          noise(edge, edge, seed++), false));
    }
    return model;
}

/// The file of that name; null when there is none.
inline const zl::OutFile* fileIn(const std::vector<zl::OutFile>& files, const std::string& name) {
    for (const zl::OutFile& file : files)
        if (file.name == name) return &file;
    return nullptr;
}
