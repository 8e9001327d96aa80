#pragma once
#include "core/texture/picture_file.h"
#include "support/shapes.h"

#include <functional>

namespace shapes {

/// A sheet of `across` by `down` squares: `place` and `uv` say where the points of 0–1 by 0–1 lie.
inline zl::Mesh panel(int across, int down, const std::function<glm::dvec3(double, double)>& place,
                      const std::function<glm::dvec2(double, double)>& uv) {
    zl::Mesh mesh;
    mesh.uvSets.emplace_back();
    for (int j = 0; j <= down; ++j)
        for (int i = 0; i <= across; ++i) {
            const double x = double(i) / across, y = double(j) / down;
            mesh.positions.emplace_back(place(x, y));
            mesh.uvSets[0].emplace_back(uv(x, y));
        }
    const auto at = [&](int i, int j) { return std::uint32_t(j * (across + 1) + i); };
    for (int j = 0; j < down; ++j)
        for (int i = 0; i < across; ++i)
            mesh.indices.insert(mesh.indices.end(), {at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j),
                                                     at(i + 1, j + 1), at(i, j + 1)});
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), 0}};
    return mesh;
}

/// An upright square of `size` metres, facing +Z, whose picture covers it once: x to the right, rows
/// downward.
inline zl::Mesh uprightSquare(double size, double left = 0, int parts = 4) {
    return panel(
        parts, parts, [&](double x, double y) { return glm::dvec3(left + x * size, y * size, 0); },
        [](double x, double y) { return glm::dvec2(x, 1 - y); });
}

/// A model of these meshes, all of one material with a picture of `width` by `height` pixels of grey.
inline zl::Model pictured(const std::vector<zl::Mesh>& meshes, int width = 64, int height = 64) {
    zl::Model model;
    model.name = "panels";
    zl::Pixels pixels{
        width, height,
        std::vector<std::uint8_t>(std::size_t(4) * std::size_t(width) * std::size_t(height), 130)};
    model.images = {zl::texture::pictureFromPixels("cloth.png", std::move(pixels), false)};
    model.materials = {{.name = "cloth", .baseColour = glm::vec4(1)}};
    model.materials[0].picture(zl::PictureRole::Colour).image = 0;
    for (std::size_t i = 0; i < meshes.size(); ++i) {
        model.nodes.push_back({"panel " + std::to_string(i + 1), -1, glm::dmat4(1.0), int(i)});
        model.meshes.push_back(std::make_shared<const zl::Mesh>(meshes[i]));
    }
    return model;
}

} // namespace shapes
