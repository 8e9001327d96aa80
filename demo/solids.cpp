#include "solids.h"

#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

namespace zl::demo {

void Solids::quad(const glm::dvec3 (&corner)[4], const glm::dvec2 (&uv)[4], const glm::dvec3 (&normal)[4]) {
    const auto first = static_cast<std::uint32_t>(mesh_.positions.size());
    if (mesh_.uvSets.empty()) mesh_.uvSets.emplace_back();
    for (int k = 0; k < 4; ++k) {
        mesh_.positions.emplace_back(corner[k]);
        mesh_.normals.emplace_back(normal[k]);
        mesh_.uvSets[0].emplace_back(uv[k]);
    }
    const auto triangle = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        if (glm::length(glm::cross(corner[b] - corner[a], corner[c] - corner[a])) < 1e-12)
            return; // at a pole
        mesh_.indices.insert(mesh_.indices.end(), {first + a, first + b, first + c});
        materials_.push_back(material_);
    };
    triangle(0, 1, 2);
    triangle(0, 2, 3);
}

Solids& Solids::box(glm::dvec3 centre, glm::dvec3 half, double turn, double lean) {
    const glm::dmat4 place = glm::rotate(glm::translate(glm::dmat4(1.0), centre), turn, glm::dvec3(0, 1, 0)) *
                             glm::rotate(glm::dmat4(1.0), lean, glm::dvec3(1, 0, 0));
    for (int axis = 0; axis < 3; ++axis)
        for (const int sign : {1, -1}) {
            const int a = (axis + 1) % 3, b = (axis + 2) % 3;
            glm::dvec3 n(0);
            n[axis] = sign;
            const bool along = half[a] >= half[b]; // the grain runs along the longer side
            glm::dvec3 corners[4], normals[4];
            glm::dvec2 uvs[4];
            constexpr int s[] = {-1, 1, 1, -1}, t[] = {-1, -1, 1, 1};
            for (int k = 0; k < 4; ++k) {
                glm::dvec3 p = n;
                p[a] = sign * s[k], p[b] = t[k];
                const glm::dvec3 scaled = p * half;
                corners[k] = glm::dvec3(place * glm::dvec4(scaled, 1));
                normals[k] = glm::dvec3(place * glm::dvec4(n, 0));
                uvs[k] = along ? glm::dvec2(scaled[a], scaled[b]) : glm::dvec2(scaled[b], scaled[a]);
                uvs[k] = uvs[k] + glm::dvec2(centre.x + centre.z * 0.37, centre.y);
            }
            quad(corners, uvs, normals);
        }
    return *this;
}

Solids& Solids::turned(const std::vector<glm::dvec2>& profile, glm::dvec3 foot, int axis, int sides) {
    const auto placed = [&](glm::dvec3 p) { // turned about Y first, then laid along the axis
        if (axis == 0) p = {p.y, p.z, p.x};
        if (axis == 2) p = {p.z, p.x, p.y};
        return p;
    };
    for (std::size_t j = 0; j + 1 < profile.size(); ++j) {
        const glm::dvec2 d = profile[j + 1] - profile[j];
        const glm::dvec2 slope =
            glm::length(d) > 0 ? glm::normalize(glm::dvec2(d.y, -d.x)) : glm::dvec2(1, 0);
        for (int i = 0; i < sides; ++i) {
            glm::dvec3 corners[4], normals[4];
            glm::dvec2 uvs[4];
            constexpr int di[] = {0, 1, 1, 0}, dj[] = {0, 0, 1, 1};
            for (int k = 0; k < 4; ++k) {
                const double turn = glm::two_pi<double>() * (i + di[k]) / sides;
                const glm::dvec2& p = profile[j + dj[k]];
                corners[k] = foot + placed({p.x * std::sin(turn), p.y, p.x * std::cos(turn)});
                normals[k] = placed({slope.x * std::sin(turn), slope.y, slope.x * std::cos(turn)});
                uvs[k] = {glm::two_pi<double>() * std::max(profile[j].x, profile[j + 1].x) * (i + di[k]) /
                              sides,
                          -p.y - p.x};
            }
            quad(corners, uvs, normals);
        }
    }
    return *this;
}

Solids& Solids::bar(glm::dvec3 from, glm::dvec3 to, double radius, int sides) {
    const glm::dvec3 y = glm::normalize(to - from),
                     x = glm::normalize(
                         glm::cross(std::abs(y.y) < 0.9 ? glm::dvec3(0, 1, 0) : glm::dvec3(1, 0, 0), y)),
                     z = glm::cross(x, y);
    const double length = glm::distance(from, to);
    for (int i = 0; i < sides; ++i) {
        glm::dvec3 corners[4], normals[4], bottom[4], top[4], up[4], down[4];
        glm::dvec2 uvs[4];
        constexpr int di[] = {0, 1, 1, 0};
        for (int k = 0; k < 4; ++k) {
            const double turn = glm::two_pi<double>() * (i + di[k]) / sides;
            const glm::dvec3 out = z * std::cos(turn) + x * std::sin(turn);
            corners[k] = (k < 2 ? from : to) + out * radius;
            normals[k] = out;
            uvs[k] = {k < 2 ? 0 : length, turn * radius};
            up[k] = y, down[k] = -y;
        }
        quad(corners, uvs, normals);
        bottom[0] = bottom[3] = from, bottom[1] = corners[1], bottom[2] = corners[0];
        top[0] = top[3] = to, top[1] = corners[3], top[2] = corners[2];
        quad(bottom, uvs, down);
        quad(top, uvs, up);
    }
    return *this;
}

Solids& Solids::rope(const std::vector<glm::dvec3>& path, double radius, int sides) {
    for (std::size_t i = 0; i + 1 < path.size(); ++i) bar(path[i], path[i + 1], radius, sides);
    return *this;
}

Solids& Solids::ring(glm::dvec3 middle, glm::dvec3 u, glm::dvec3 v, double radius, int parts) {
    std::vector<glm::dvec3> path;
    for (int i = 0; i <= parts; ++i) {
        const double angle = glm::two_pi<double>() * i / parts;
        path.push_back(middle + u * std::cos(angle) + v * std::sin(angle));
    }
    return rope(path, radius);
}

Mesh Solids::take(const std::string& name) {
    std::vector<std::uint32_t> all(mesh_.positions.size());
    for (std::uint32_t i = 0; i < all.size(); ++i) all[i] = i;
    Mesh out = withVertices(mesh_, all, std::vector<std::uint32_t>(mesh_.indices), wearOf(materials_));
    out.name = name;
    mesh_ = {};
    materials_.clear();
    return out;
}

int addNode(Model& model, const std::string& name, int parent, const glm::dmat4& local, Mesh mesh) {
    Node node{name, parent, local};
    if (!mesh.positions.empty()) {
        node.mesh = static_cast<int>(model.meshes.size());
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    }
    model.nodes.push_back(std::move(node));
    return static_cast<int>(model.nodes.size()) - 1;
}

} // namespace zl::demo
