#include "standins/world/shape.h"

namespace zl::standins::world {

namespace {

/// Where along `way` a triangle is met, from either side (Möller and Trumbore 1997).
std::optional<float> metAt(const glm::vec3& start, const glm::vec3& way, const glm::vec3& a,
                           const glm::vec3& b, const glm::vec3& c) {
    const glm::vec3 p = b - a, q = c - a, side = glm::cross(way, q);
    const float share = glm::dot(p, side);
    if (share == 0) return std::nullopt;
    const glm::vec3 from = start - a, turned = glm::cross(from, p);
    const float u = glm::dot(from, side) / share, v = glm::dot(way, turned) / share;
    const float distance = glm::dot(q, turned) / share;
    return u >= 0 && v >= 0 && u + v <= 1 && distance > 0 ? std::optional(distance) : std::nullopt;
}

} // namespace

std::optional<Met> firstMet(const Shape& shape, const glm::vec3& start, const glm::vec3& way) {
    std::optional<Met> nearest;
    for (std::size_t i = 0; i + 2 < shape.indices.size(); i += 3) {
        const auto met = metAt(start, way, shape.positions[shape.indices[i]],
                               shape.positions[shape.indices[i + 1]], shape.positions[shape.indices[i + 2]]);
        if (met && (!nearest || *met < nearest->distance)) nearest = {*met, i / 3};
    }
    return nearest;
}

glm::vec3 Shape::low() const {
    glm::vec3 p(1e30f);
    for (const glm::vec3& v : positions) p = glm::min(p, v);
    return p;
}
glm::vec3 Shape::high() const {
    glm::vec3 p(-1e30f);
    for (const glm::vec3& v : positions) p = glm::max(p, v);
    return p;
}

glm::vec3 Shape::middleOfMass() const {
    const glm::dvec3 origin = (low() + high()) * 0.5f;
    glm::dvec3 weighted(0.0);
    double volume = 0;
    for (std::size_t i = 0; i + 2 < indices.size(); i += 3) {
        const glm::dvec3 a = glm::dvec3(positions[indices[i]]) - origin,
                         b = glm::dvec3(positions[indices[i + 1]]) - origin,
                         c = glm::dvec3(positions[indices[i + 2]]) - origin;
        const double six = glm::dot(a, glm::cross(b, c)); // six times a tetrahedron's volume, signed
        volume += six;
        weighted += (a + b + c) * (six / 4);
    }
    const glm::dvec3 box = size(), middle = volume != 0 ? weighted / volume : glm::dvec3(0.0);
    const bool inside = std::abs(volume) > 1e-3 * box.x * box.y * box.z &&
                        glm::all(glm::lessThanEqual(glm::abs(middle), box * 0.5));
    return origin + (inside ? middle : glm::dvec3(0.0));
}

Shape boxShape(const glm::vec3& low, const glm::vec3& high) {
    Shape shape;
    for (int i = 0; i < 8; ++i)
        shape.positions.emplace_back(i & 1 ? high.x : low.x, i & 2 ? high.y : low.y, i & 4 ? high.z : low.z);
    shape.indices = {0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4,
                     2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5};
    return shape;
}

void makeFlat(Shape& shape) {
    Shape flat;
    for (std::size_t i = 0; i + 2 < shape.indices.size(); i += 3) {
        const glm::vec3 a = shape.positions[shape.indices[i]], b = shape.positions[shape.indices[i + 1]],
                        c = shape.positions[shape.indices[i + 2]];
        const glm::vec3 across = glm::cross(b - a, c - a);
        const glm::vec3 n = glm::length(across) > 0 ? glm::normalize(across) : glm::vec3(0, 1, 0);
        for (const glm::vec3& p : {a, b, c}) {
            flat.indices.push_back(static_cast<std::uint32_t>(flat.positions.size()));
            flat.positions.push_back(p);
            flat.normals.push_back(n);
            flat.uvs.emplace_back(0.0f);
        }
    }
    shape = std::move(flat);
}

void turnAll(Shape& shape, glm::vec3 (*turn)(const glm::vec3&)) {
    for (glm::vec3& p : shape.positions) p = turn(p);
    for (glm::vec3& n : shape.normals) n = turn(n);
}

void addMissingNormals(Shape& shape) {
    if (shape.normals.size() == shape.positions.size()) return;
    shape.normals.assign(shape.positions.size(), glm::vec3(0));
    for (std::size_t i = 0; i + 2 < shape.indices.size(); i += 3) {
        const glm::vec3 a = shape.positions[shape.indices[i]];
        const glm::vec3 n =
            glm::cross(shape.positions[shape.indices[i + 1]] - a, shape.positions[shape.indices[i + 2]] - a);
        for (int k = 0; k < 3; ++k) shape.normals[shape.indices[i + k]] += n;
    }
    for (glm::vec3& n : shape.normals) n = glm::length(n) > 0 ? glm::normalize(n) : glm::vec3(0, 1, 0);
}

} // namespace zl::standins::world
