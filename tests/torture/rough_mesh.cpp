#include "rough_mesh.h"

#include "support/shapes.h"

#include <algorithm>

namespace torture {

using zl::Mesh;

namespace {

void triangle(Mesh& mesh, std::uint32_t a, std::uint32_t b, std::uint32_t c) {
    mesh.indices.insert(mesh.indices.end(), {a, b, c});
}

/// A plate whose long edges carry many corners almost or exactly on one line: every second triangle is a
/// sliver beside another.
Mesh slivers(Dice& dice) {
    Mesh mesh;
    const int count = dice.between(3, 40);
    const float bend = dice.chance(0.5) ? 0 : 1e-8f;
    for (int i = 0; i <= count; ++i)
        mesh.positions.emplace_back(float(i) / float(count), dice.chance(0.3) ? bend * dice.pm1() : 0, 0);
    const auto top = std::uint32_t(mesh.positions.size());
    mesh.positions.emplace_back(0.5f, 1, 0);
    for (std::uint32_t i = 0; i + 2 <= std::uint32_t(count); ++i)
        triangle(mesh, i, i + 1, i + 2); // on the line
    triangle(mesh, 0, std::uint32_t(count), top);
    if (dice.chance(0.5))
        for (std::uint32_t i = 0; i < std::uint32_t(count); ++i) triangle(mesh, i + 1, i, top);
    return mesh;
}

/// Each corner lies on its neighbour's edge, in a fan of needles about one point.
Mesh needles(Dice& dice) {
    Mesh mesh;
    mesh.positions.emplace_back(0, 0, 0);
    const int count = dice.between(4, 60);
    for (int i = 0; i < count; ++i) {
        const float angle = 1e-7f * float(i) * dice.pm1();
        mesh.positions.emplace_back(1.0f + 0.1f * float(i % 3), angle, 0);
    }
    for (int i = 1; i + 1 < count; ++i) triangle(mesh, 0, std::uint32_t(i), std::uint32_t(i + 1));
    return mesh;
}

Mesh moebius(Dice& dice) {
    Mesh mesh;
    const int around = dice.between(6, 24);
    for (int i = 0; i < around; ++i) {
        const double a = 2 * shapes::pi * i / around;
        for (const double side : {-0.3, 0.3})
            mesh.positions.emplace_back((1 + side * std::cos(a / 2)) * std::cos(a), side * std::sin(a / 2),
                                        (1 + side * std::cos(a / 2)) * std::sin(a));
    }
    const auto at = [&](int i, int side) {
        return std::uint32_t(2 * (i % around) + (i >= around ? 1 - side : side));
    };
    for (int i = 0; i < around; ++i) {
        triangle(mesh, at(i, 0), at(i + 1, 0), at(i, 1));
        triangle(mesh, at(i, 1), at(i + 1, 0), at(i + 1, 1));
    }
    return mesh;
}

/// Several sheets on one spine.
Mesh book(Dice& dice) {
    Mesh mesh;
    mesh.positions = {{0, 0, 0}, {0, 1, 0}};
    for (int i = dice.between(3, 7); i-- > 0;) {
        mesh.positions.emplace_back(dice.pm1(), dice.pm1(), dice.pm1());
        const auto last = std::uint32_t(mesh.positions.size() - 1);
        dice.chance(0.5) ? triangle(mesh, 0, 1, last) : triangle(mesh, 1, 0, last);
    }
    return mesh;
}

Mesh blades(Dice& dice) {
    Mesh mesh;
    for (int i = dice.between(1, 300); i-- > 0;) {
        const glm::vec3 foot(dice.pm1(), 0, dice.pm1());
        const auto first = std::uint32_t(mesh.positions.size());
        for (const glm::vec3& by : {glm::vec3(-0.01f, 0, 0), glm::vec3(0.01f, 0, 0), glm::vec3(0, 0.2f, 0)})
            mesh.positions.push_back(foot + by);
        triangle(mesh, first, first + 1, first + 2);
    }
    return mesh;
}

Mesh tJunctions(Dice& dice) {
    Mesh mesh;
    mesh.positions = {{0, 0, 0}, {1, 0, 0}, {0.5f, 0, 0}, {0.5f, -1, 0}, {0.5f, 1, 0}};
    triangle(mesh, 0, 1, 4);
    triangle(mesh, 0, 3, 2);
    triangle(mesh, 2, 3, 1);
    if (dice.chance(0.7)) triangle(mesh, 0, 2, 1); // the sliver that closes the gap
    return mesh;
}

Mesh soup(Dice& dice) {
    Mesh mesh;
    const int corners = dice.between(3, 30);
    for (int i = 0; i < corners; ++i) mesh.positions.emplace_back(dice.pm1(), dice.pm1(), dice.pm1());
    for (int t = dice.between(1, 40); t-- > 0;)
        triangle(mesh, std::uint32_t(dice.below(std::size_t(corners))),
                 std::uint32_t(dice.below(std::size_t(corners))),
                 std::uint32_t(dice.below(std::size_t(corners))));
    return mesh;
}

Mesh onePlace(Dice& dice) {
    Mesh mesh;
    mesh.positions.assign(std::size_t(dice.between(3, 9)), glm::vec3(dice.pm1()));
    triangle(mesh, 0, 1, 2);
    return mesh;
}

Mesh bare(Mesh mesh) {
    Mesh out;
    out.positions = std::move(mesh.positions);
    out.indices = std::move(mesh.indices);
    return out;
}

/// What is done to a shape that was whole.
void spoil(Mesh& mesh, Dice& dice) {
    if (dice.chance(0.2) && !mesh.indices.empty()) // doubles, some turned round
        for (int i = dice.between(1, 4); i-- > 0;) {
            const std::size_t t = dice.below(mesh.triangleCount());
            const std::uint32_t c[3] = {mesh.indices[3 * t], mesh.indices[3 * t + 1],
                                        mesh.indices[3 * t + 2]};
            dice.chance(0.5) ? triangle(mesh, c[0], c[1], c[2]) : triangle(mesh, c[1], c[0], c[2]);
        }
    if (dice.chance(0.2)) mesh = shapes::exploded(mesh), mesh.runs.clear();
    if (dice.chance(0.15)) // corners that nobody uses
        for (int i = dice.between(1, 20); i-- > 0;)
            mesh.positions.emplace_back(100 * dice.pm1(), 100 * dice.pm1(), 100 * dice.pm1());
    const float scale = dice.chance(0.08)   ? 1e15f
                        : dice.chance(0.08) ? 1e-12f
                        : dice.chance(0.1)  ? 1000.0f
                                            : 1;
    const glm::vec3 away = dice.chance(0.1) ? glm::vec3(1e6f, -3e5f, 2e6f) : glm::vec3(0);
    for (glm::vec3& p : mesh.positions) p = p * scale + away;
    if (dice.chance(0.1))
        for (glm::vec3& p : mesh.positions) p.y = 0; // flat as paper
}

} // namespace

Mesh roughTriangles(Dice& dice) {
    Mesh mesh;
    switch (dice.below(13)) {
    case 0:
        mesh = slivers(dice);
        break;
    case 1:
        mesh = needles(dice);
        break;
    case 2:
        mesh = moebius(dice);
        break;
    case 3:
        mesh = book(dice);
        break;
    case 4:
        mesh = blades(dice);
        break;
    case 5:
        mesh = tJunctions(dice);
        break;
    case 6:
        mesh = soup(dice);
        break;
    case 7:
        mesh = onePlace(dice);
        break;
    case 8:
        break; // nothing at all, or points
    case 9:
        mesh.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
        triangle(mesh, 0, 1, 2);
        break;
    case 10:
        mesh = bare(zl::geometry::boxMesh({-0.5, 0, -0.5}, {0.5, 1, 0.5}));
        break;
    default:
        mesh = bare(shapes::sphere(dice.between(3, 24), dice.between(2, 16)));
    }
    if (mesh.positions.empty() && dice.chance(0.5))
        for (int i = dice.between(1, 9); i-- > 0;)
            mesh.positions.emplace_back(dice.pm1(), dice.pm1(), dice.pm1());
    spoil(mesh, dice);
    return mesh;
}

void addRoughAttributes(Mesh& mesh, Dice& dice, std::size_t bones) {
    const std::size_t n = mesh.positions.size();
    if (n == 0) return;
    const auto fill = [&](auto& values, const auto& make) {
        values.resize(n);
        for (auto& value : values) value = make();
    };
    const auto direction = [&] {
        const glm::vec3 v(dice.pm1(), dice.pm1(), dice.pm1());
        return dice.chance(0.02) ? glm::vec3(0) : dice.chance(0.05) ? v : v / std::max(1e-3f, glm::length(v));
    };
    if (dice.chance(0.5)) fill(mesh.normals, direction);
    if (dice.chance(0.2))
        fill(mesh.tangents, [&] { return glm::vec4(direction(), dice.chance(0.5) ? 1 : -1); });
    for (int sets = dice.chance(0.6) ? dice.between(1, 3) : 0; sets-- > 0;) {
        const float spread = dice.chance(0.1) ? 1e6f : 1;
        fill(mesh.uvSets.emplace_back(), [&] { return glm::vec2(dice.pm1(), dice.pm1()) * spread; });
    }
    if (dice.chance(0.2))
        fill(mesh.colours, [&] { return glm::vec4(dice.unit(), dice.unit(), dice.unit(), dice.unit()); });
    if (bones > 0 && dice.chance(0.7)) {
        fill(mesh.joints, [&] {
            glm::u16vec4 joints;
            for (int k = 0; k < 4; ++k) joints[k] = std::uint16_t(dice.below(bones));
            return joints;
        });
        fill(mesh.weights, [&] {
            const glm::vec4 w(dice.unit(), dice.unit(), dice.unit(), dice.unit());
            return dice.chance(0.1)   ? glm::vec4(0)
                   : dice.chance(0.5) ? glm::vec4(1, 0, 0, 0)
                                      : w / (w.x + w.y + w.z + w.w + 1e-6f);
        });
    }
    if (dice.chance(0.2))
        for (int targets = dice.between(1, 3); targets-- > 0;) {
            auto& morph = mesh.morphs.emplace_back();
            morph.name = dice.chance(0.5) ? "smile" : "frown";
            fill(morph.positions, [&] { return dice.chance(0.5) ? glm::vec3(0) : direction() * 0.1f; });
            if (dice.chance(0.5)) fill(morph.normals, direction);
        }
}

} // namespace torture
