#pragma once
#include "support/shapes.h"

#include <glm/gtc/matrix_transform.hpp>

#include <random>

namespace shapes {

/// A tree of `count` nodes, most showing one of a few lumpy balls, with turns, moves, uneven and mirrored
/// scales. `even` keeps scales even and unmirrored, so that clips can hang anywhere.
inline zl::Model randomTree(int count, unsigned seed, bool even = false) {
    std::mt19937 random(seed);
    const auto pick = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    zl::Model model;
    model.name = "tree";
    model.frame.unitAssumed = model.frame.upAssumed = false;
    for (int m = 0; m < 5; ++m) {
        zl::Mesh mesh = sphere(8 + m, 5 + m, 0.5);
        mesh.name = "ball-" + std::to_string(m);
        for (glm::vec3& p : mesh.positions) {
            mesh.normals.push_back(glm::normalize(p));
            p += glm::vec3(pick(-0.05, 0.05), pick(-0.05, 0.05), pick(-0.05, 0.05));
        }
        model.meshes.push_back(std::make_shared<const zl::Mesh>(std::move(mesh)));
    }
    for (int n = 0; n < count; ++n) {
        glm::dmat4 local = glm::translate(glm::dmat4(1.0), {pick(-1, 1), pick(-1, 1), pick(-1, 1)});
        local = glm::rotate(local, pick(-3, 3),
                            glm::normalize(glm::dvec3(pick(-1, 1), pick(-1, 1), pick(0.1, 1))));
        glm::dvec3 scale(pick(0.7, 1.4));
        if (!even) scale = {pick(0.7, 1.4) * (n % 3 == 0 ? -1 : 1), pick(0.7, 1.4), pick(0.7, 1.4)};
        local = glm::scale(local, scale);
        const int parent = n == 0 ? -1 : int(pick(std::max(0, n - 12), n - 0.001));
        model.nodes.push_back({"node-" + std::to_string(n), parent, local, n % 4 == 3 ? -1 : n % 5});
    }
    return model;
}

} // namespace shapes
