// A body as the smooth union of round cones along its bones (smooth minimum: I. Quilez, "Smooth minimum",
// 2013), turned into one closed surface by surface nets (S. Gibson, "Constrained elastic surface nets",
// 1998).
#include "core/figure/figure.h"

#include "core/geometry/normals.h"
#include "core/geometry/reduce.h"

#include <glm/gtc/matrix_transform.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::figure {

namespace {

/// A round cone between two points, belonging to a bone.
struct Limb {
    int bone;
    glm::dvec3 from, to;
    double thickFrom, thickTo;

    /// Signed distance, near enough: of a capsule whose radius changes along its axis.
    double distance(const glm::dvec3& p) const {
        const glm::dvec3 axis = to - from;
        const double along =
            std::clamp(glm::dot(p - from, axis) / std::max(glm::dot(axis, axis), 1e-12), 0.0, 1.0);
        return glm::distance(p, from + axis * along) - glm::mix(thickFrom, thickTo, along);
    }
};

double smoothMinimum(double a, double b, double round) {
    const double h = std::max(round - std::abs(a - b), 0.0) / round;
    return std::min(a, b) - h * h * round / 4;
}

std::vector<Limb> limbsOf(const Kind& kind, const std::vector<Joint>& joints) {
    const double size = kind.height, g = kind.girth * size;
    const auto at = [&](std::string_view name) {
        return std::ranges::find(joints, name, &Joint::name) - joints.begin();
    };
    const auto place = [&](std::string_view name) { return joints[std::size_t(at(name))].place; };
    std::vector<Limb> limbs;
    const auto add = [&](std::string_view bone, glm::dvec3 from, glm::dvec3 to, double thickFrom,
                         double thickTo) {
        limbs.push_back({int(at(bone)), from, to, thickFrom, thickTo});
    };
    const auto aside = [&](double x, double y, double z) { return glm::dvec3(x, y, z) * size; };
    for (const double side : {-1.0, 1.0}) {
        const std::string end = side > 0 ? ".left" : ".right";
        const auto s = [&](const char* bone) { return bone + end; };
        add("hips", place("hips") + aside(side * 0.03, -0.005, 0),
            place("hips") + aside(side * 0.028, 0.03, 0), 0.066 * g, 0.062 * g);
        add("spine", place("spine") + aside(side * 0.024, 0, 0),
            place("chest") + aside(side * 0.028, -0.02, 0), 0.056 * g, 0.062 * g);
        add("chest", place("chest") + aside(side * 0.034, 0, 0.004),
            place("chest") + aside(side * 0.05, 0.07, 0), 0.066 * g, 0.058 * g);
        add(s("shoulder"), place(s("shoulder")), place(s("upperarm")), 0.036 * g, 0.038 * g);
        add(s("upperarm"), place(s("upperarm")), place(s("forearm")), 0.037 * g, 0.027 * g);
        add(s("forearm"), place(s("forearm")), place(s("hand")), 0.028 * g, 0.019 * g);
        add(s("hand"), place(s("hand")), place(s("fingers")), 0.019 * size, 0.021 * size);
        add(s("fingers"), place(s("fingers")), place(s("fingers")) + aside(side * 0.008, -0.042, 0.004),
            0.019 * size, 0.012 * size);
        add(s("thigh"), place(s("thigh")) + aside(0, -0.01, 0), place(s("shin")), 0.058 * g, 0.038 * g);
        add(s("shin"), place(s("shin")), place(s("foot")), 0.037 * g, 0.024 * g);
        add(s("foot"), place(s("foot")) + aside(0, -0.012, 0), place(s("toes")) + aside(0, 0.012, 0),
            0.028 * size, 0.023 * size);
        add(s("toes"), place(s("toes")) + aside(0, 0.012, 0), place(s("toes")) + aside(0, 0.01, 0.03),
            0.023 * size, 0.019 * size);
    }
    add("neck", place("neck") + aside(0, -0.02, 0), place("head"), 0.036 * g, 0.031 * g);
    // The head fills what is left above the neck.
    const double top = size, low = place("head").y;
    const double round = std::min((top - low) * 0.47, 0.06 * size * kind.head);
    add("head", {0, low + 0.75 * round, 0.02 * size}, {0, top - round, 0.008 * size}, 0.7 * round, round);
    return limbs;
}

/// The field on a grid, and the surface where it changes its sign.
class Nets {
public:
    Nets(const std::vector<Limb>& limbs, glm::dvec3 low, glm::dvec3 high, double cell, double round)
        : limbs_(limbs), low_(low), cell_(cell), round_(round),
          count_(glm::ivec3(glm::ceil((high - low) / cell)) + 1),
          field_(std::size_t(count_.x) * count_.y * count_.z) {
        tbb::parallel_for(0, count_.z, [&](int z) {
            for (int y = 0; y < count_.y; ++y)
                for (int x = 0; x < count_.x; ++x)
                    field_[at({x, y, z})] = float(distance(placeOf({x, y, z})));
        });
    }

    double distance(const glm::dvec3& p) const {
        double d = 1e9;
        for (const Limb& limb : limbs_) d = smoothMinimum(d, limb.distance(p), round_);
        return d;
    }

    Mesh surface() const {
        Mesh mesh;
        std::vector<std::uint32_t> corner(field_.size(), ~0u);
        for (int z = 0; z + 1 < count_.z; ++z)
            for (int y = 0; y + 1 < count_.y; ++y)
                for (int x = 0; x + 1 < count_.x; ++x)
                    if (const auto place = cornerIn({x, y, z})) {
                        corner[at({x, y, z})] = std::uint32_t(mesh.positions.size());
                        mesh.positions.emplace_back(*place);
                    }
        // A face across each edge of the grid that the surface cuts.
        for (int z = 1; z + 1 < count_.z; ++z)
            for (int y = 1; y + 1 < count_.y; ++y)
                for (int x = 1; x + 1 < count_.x; ++x)
                    for (int axis = 0; axis < 3; ++axis) {
                        const glm::ivec3 from(x, y, z);
                        glm::ivec3 to = from, u(0), v(0);
                        ++to[axis], ++u[(axis + 1) % 3], ++v[(axis + 2) % 3];
                        const bool inside = field_[at(from)] < 0;
                        if (inside == (field_[at(to)] < 0)) continue;
                        std::array<std::uint32_t, 4> c{corner[at(from - u - v)], corner[at(from - v)],
                                                       corner[at(from)], corner[at(from - u)]};
                        if (!inside) std::swap(c[1], c[3]);
                        mesh.indices.insert(mesh.indices.end(), {c[0], c[1], c[2], c[0], c[2], c[3]});
                    }
        return mesh;
    }

private:
    std::size_t at(glm::ivec3 c) const { return (std::size_t(c.z) * count_.y + c.y) * count_.x + c.x; }
    glm::dvec3 placeOf(glm::ivec3 c) const { return low_ + glm::dvec3(c) * cell_; }

    /// The mean of where the cell's edges are cut; nothing where none is.
    std::optional<glm::dvec3> cornerIn(glm::ivec3 cell) const {
        glm::dvec3 sum(0);
        int cuts = 0;
        for (int a = 0; a < 8; ++a)
            for (int axis = 0; axis < 3; ++axis) {
                if (a >> axis & 1) continue;
                const glm::ivec3 from = cell + glm::ivec3(a & 1, a >> 1 & 1, a >> 2 & 1);
                glm::ivec3 to = from;
                ++to[axis];
                const float d = field_[at(from)], e = field_[at(to)];
                if ((d < 0) == (e < 0)) continue;
                sum += glm::mix(placeOf(from), placeOf(to), double(d / (d - e)));
                ++cuts;
            }
        return cuts > 0 ? std::optional(sum / double(cuts)) : std::nullopt;
    }

    const std::vector<Limb>& limbs_;
    glm::dvec3 low_;
    double cell_, round_;
    glm::ivec3 count_;
    std::vector<float> field_;
};

/// Each corner hangs on the up to four bones whose limbs are nearest, more on those that are nearer.
void skin(Mesh& mesh, const std::vector<Limb>& limbs, std::size_t bones, double soft) {
    mesh.joints.resize(mesh.vertexCount()), mesh.weights.resize(mesh.vertexCount());
    tbb::parallel_for(std::size_t(0), mesh.vertexCount(), [&](std::size_t v) {
        std::vector<std::pair<double, int>> near(bones, {1e9, 0});
        for (const Limb& limb : limbs)
            near[std::size_t(limb.bone)] = {
                std::min(near[std::size_t(limb.bone)].first, limb.distance(glm::dvec3(mesh.positions[v]))),
                limb.bone};
        std::ranges::sort(near);
        glm::dvec4 weights(0);
        for (int k = 0; k < 4; ++k) {
            const double beyond = (near[std::size_t(k)].first - near[0].first) / soft;
            weights[k] = beyond < 1 ? (1 - beyond) * (1 - beyond) : 0;
        }
        weights /= weights.x + weights.y + weights.z + weights.w;
        for (int k = 0; k < 4; ++k)
            if (weights[k] > 0) mesh.joints[v][k] = std::uint16_t(near[std::size_t(k)].second);
        mesh.weights[v] = glm::vec4(weights);
    });
}

} // namespace

Model figureOf(const Kind& kind) {
    const auto joints = jointsOf(kind);
    const auto limbs = limbsOf(kind, joints);
    const double size = kind.height;
    const Nets nets(limbs, glm::dvec3(-0.34, -0.06, -0.16) * size, glm::dvec3(0.34, 1.06, 0.2) * size,
                    0.0112 * size, 0.02 * size);
    constexpr std::size_t triangles = 5600; // what the game takes of one object, with room for a hat
    Mesh mesh = geometry::withNormals(geometry::reduce(nets.surface(), {triangles}), 3);
    // Down to the floor, to the millimetre.
    float low = 1e9f;
    for (const glm::vec3& p : mesh.positions) low = std::min(low, p.y);
    for (glm::vec3& p : mesh.positions) p.y -= low;
    skin(mesh, limbs, joints.size(), 0.05 * size);
    mesh.name = "body";
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), 0}};
    Model model;
    model.name = "figure-" + std::string(kind.id);
    model.frame = {unitNamed("m"), Up::Y, false, false};
    model.headingKnown = true;
    model.materials.push_back({.name = "figure", .baseColour = {0.62f, 0.56f, 0.50f, 1}, .roughness = 0.85f});
    Skin bones;
    bones.name = model.name;
    for (const Joint& joint : joints) {
        const glm::dvec3 from = joint.parent < 0 ? glm::dvec3(0) : joints[std::size_t(joint.parent)].place;
        bones.joints.push_back(int(model.nodes.size()));
        model.nodes.push_back(
            {std::string(joint.name), joint.parent, glm::translate(glm::dmat4(1.0), joint.place - from)});
        model.nodes.back().turns = joint.turns;
        bones.inverseBind.emplace_back(glm::translate(glm::dmat4(1.0), -joint.place));
    }
    bones.root = 0;
    model.skins.push_back(std::move(bones));
    model.nodes.push_back({"body", -1, glm::dmat4(1.0), 0, 0});
    model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    return model;
}

} // namespace zl::figure
