#pragma once
#include "core/geometry/solids.h"
#include "core/model/model.h"

#include <glm/gtc/matrix_transform.hpp>

#include <cmath>

namespace shapes {

inline const double pi = std::acos(-1.0);

inline zl::Model modelOf(zl::Mesh mesh, const std::string& name = "thing") {
    zl::Model model;
    model.name = name;
    model.frame.unitAssumed = model.frame.upAssumed = false;
    mesh.name = name;
    if (mesh.runs.empty()) mesh.runs = {{0, static_cast<std::uint32_t>(mesh.triangleCount()), -1}};
    model.nodes.push_back({name, -1, glm::dmat4(1.0), 0});
    model.meshes.push_back(std::make_shared<const zl::Mesh>(std::move(mesh)));
    return model;
}

inline zl::Model box(glm::dvec3 low, glm::dvec3 high) {
    return modelOf(zl::geometry::boxMesh(low, high), "box");
}

/// A cart along X: four wheels with axles along Z, and a cab at the -X end, where its front is.
inline zl::Model cart() {
    zl::Model cart = box({-2, 0.6, -0.8}, {2, 0.9, 0.8});
    const auto add = [&](const zl::Mesh& mesh, const glm::dmat4& place) {
        cart.nodes.push_back({"part", -1, place, int(cart.meshes.size())});
        cart.meshes.push_back(std::make_shared<const zl::Mesh>(mesh));
    };
    const zl::Mesh wheel = zl::geometry::cylinderMesh({0, -0.1, 0}, 0.5, 0.2, 48);
    for (const double x : {-1.3, 1.3})
        for (const double z : {-0.9, 0.9})
            add(wheel, glm::rotate(glm::translate(glm::dmat4(1.0), {x, 0.5, z}), pi / 2, {1.0, 0.0, 0.0}));
    add(zl::geometry::boxMesh({-2, 0.9, -0.8}, {-1.1, 2.0, 0.8}), glm::dmat4(1.0));
    return cart;
}

/// A sphere of shared corners from rings and poles, facing outward, with UVs.
inline zl::Mesh sphere(int around, int up, double radius = 1) {
    zl::Mesh mesh;
    mesh.uvSets.emplace_back();
    const auto add = [&](double u, double v) {
        const double a = 2 * pi * u, b = pi * v;
        mesh.positions.emplace_back(radius * std::sin(b) * std::sin(a), -radius * std::cos(b),
                                    radius * std::sin(b) * std::cos(a));
        mesh.uvSets[0].emplace_back(u, v);
    };
    add(0, 0);
    for (int j = 1; j < up; ++j)
        for (int i = 0; i < around; ++i) add(double(i) / around, double(j) / up);
    add(0, 1);
    const auto at = [&](int i, int j) {
        return static_cast<std::uint32_t>(j == 0    ? 0
                                          : j == up ? 1 + around * (up - 1)
                                                    : 1 + (j - 1) * around + i % around);
    };
    for (int j = 0; j < up; ++j)
        for (int i = 0; i < around; ++i) {
            if (j > 0) mesh.indices.insert(mesh.indices.end(), {at(i, j), at(i + 1, j), at(i + 1, j + 1)});
            if (j + 1 < up)
                mesh.indices.insert(mesh.indices.end(), {at(i, j), at(i + 1, j + 1), at(i, j + 1)});
        }
    mesh.runs = {{0, static_cast<std::uint32_t>(mesh.triangleCount()), -1}};
    return mesh;
}

/// The same triangles with corners of their own, as STL has them.
inline zl::Mesh exploded(const zl::Mesh& mesh) {
    zl::Mesh out;
    for (const std::uint32_t i : mesh.indices) {
        out.indices.push_back(static_cast<std::uint32_t>(out.positions.size()));
        out.positions.push_back(mesh.positions[i]);
    }
    out.runs = {{0, static_cast<std::uint32_t>(out.triangleCount()), -1}};
    return out;
}

} // namespace shapes
