#include "standins/world/shading.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::world {

Lens lensFor(const glm::vec3& low, const glm::vec3& high, int width, int height) {
    constexpr float angle = 0.55f, yaw = 0.5f, pitch = 0.3f, air = 1.15f;
    const glm::vec3 back(std::sin(yaw) * std::cos(pitch), std::sin(pitch), std::cos(yaw) * std::cos(pitch));
    const float aspect = float(width) / float(std::max(1, height));
    const float radius = std::max(1e-4f, 0.5f * glm::length(high - low));
    const float distance = air * radius / std::sin(angle / 2) / std::min(1.0f, aspect);
    const glm::vec3 middle = (low + high) * 0.5f;
    Lens out;
    out.eye = middle + back * distance;
    out.view = glm::lookAt(out.eye, middle, glm::vec3(0, 1, 0));
    out.projection = glm::perspective(angle, aspect, distance * 0.02f, distance * 60);
    out.width = width, out.height = height;
    return out;
}

glm::vec3 ShadedItem::levelsFrom(const Lens& lens, const glm::mat4& pose) const {
    const float away = glm::length(glm::vec3(pose * glm::vec4(middle, 1)) - lens.eye);
    const float pixel = 2 * away / (lens.projection[1][1] * float(lens.height)); // in the world
    glm::vec3 out(0);
    for (std::size_t k = 0; k < std::min<std::size_t>(3, pictures.size()); ++k) {
        if (!pictures[k] || pictures[k]->pictures.empty()) continue;
        const Picture& whole = pictures[k]->pictures[0];
        const float texels = uvsPerUnit * std::sqrt(float(whole.width) * float(whole.height)) * pixel;
        out[int(k)] =
            std::clamp(std::log2(std::max(texels, 1e-6f)), 0.0f, float(pictures[k]->pictures.size() - 1));
    }
    return out;
}

ShadedItem shadedItemOf(const Shape& shape, std::vector<std::shared_ptr<const PictureLevels>> pictures) {
    ShadedItem out;
    out.pictures = std::move(pictures);
    out.indices = shape.indices;
    const std::size_t count = shape.positions.size();
    std::vector<glm::vec3> across(count, glm::vec3(0)), down(count, glm::vec3(0));
    std::vector<float> weight(count, 0);
    double area = 0, covered = 0;
    for (std::size_t t = 0; t + 2 < shape.indices.size(); t += 3) {
        const std::uint32_t* c = &shape.indices[t];
        const glm::vec3 p = shape.positions[c[1]] - shape.positions[c[0]],
                        q = shape.positions[c[2]] - shape.positions[c[0]];
        const glm::vec2 a = shape.uvs[c[1]] - shape.uvs[c[0]], b = shape.uvs[c[2]] - shape.uvs[c[0]];
        const float turned = a.x * b.y - b.x * a.y, size = glm::length(glm::cross(p, q));
        area += size, covered += std::abs(turned);
        if (std::abs(turned) < 1e-12f || !(size > 0)) continue;
        const glm::vec3 u = (p * b.y - q * a.y) / turned, v = (q * a.x - p * b.x) / turned;
        for (int k = 0; k < 3; ++k) across[c[k]] += u * size, down[c[k]] += v * size, weight[c[k]] += size;
    }
    out.uvsPerUnit = area > 0 ? float(std::sqrt(covered / area)) : 0;
    out.middle = count ? (shape.low() + shape.high()) * 0.5f : glm::vec3(0);
    for (std::size_t i = 0; i < count; ++i) {
        const glm::vec3& n = shape.normals[i];
        const auto along = [&](glm::vec3 way) {
            way /= std::max(weight[i], 1e-12f);
            way -= n * glm::dot(way, n);
            return glm::dot(way, way) > 1e-16f ? way : glm::vec3(0);
        };
        out.corners.push_back({shape.positions[i], n, along(across[i]), along(down[i]), shape.uvs[i]});
    }
    return out;
}

} // namespace zl::standins::world
