// The fair apron in two sizes: one mesh each, alike corner for corner, in which pockets, loops and the lamp
// badge share corners with what is around them.
#include "demo_data.h"
#include "jointed.h"

#include "core/figure/figure.h"
#include "core/texture/picture_file.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

namespace zl::demo {

namespace {

using std::numbers::pi;

enum Fabric { Canvas, Quilt, Brass, Lens, Leather };

/// Sews one mesh out of grids whose cells wear fabrics.
class Sewn {
public:
    using At = std::function<glm::dvec3(double u, double v)>;

    /// `across` by `up` cells; `fabric(i, j)` says what a cell wears. With `closed` the last column is the
    /// first again.
    void grid(int across, int up, bool closed, const At& at, const std::function<int(int, int)>& fabric) {
        const auto first = std::uint32_t(mesh_.positions.size());
        const int columns = closed ? across : across + 1;
        for (int j = 0; j <= up; ++j)
            for (int i = 0; i < columns; ++i) {
                const double u = double(i) / across, v = double(j) / up;
                mesh_.positions.emplace_back(at(u, v));
                mesh_.uvSets[0].emplace_back(u, 1 - v);
            }
        const auto corner = [&](int i, int j) { return first + std::uint32_t(j * columns + i % columns); };
        for (int j = 0; j < up; ++j)
            for (int i = 0; i < across; ++i)
                for (const auto& t : {std::array{corner(i, j), corner(i + 1, j), corner(i + 1, j + 1)},
                                      std::array{corner(i, j), corner(i + 1, j + 1), corner(i, j + 1)}}) {
                    mesh_.indices.insert(mesh_.indices.end(), t.begin(), t.end());
                    fabrics_.push_back(fabric(i, j));
                }
    }

    /// With normals by area, and triangles in the order of their fabrics.
    Mesh take() {
        mesh_.normals.assign(mesh_.positions.size(), glm::vec3(0));
        for (std::size_t i = 0; i < mesh_.indices.size(); i += 3) {
            const auto* t = &mesh_.indices[i];
            const glm::vec3 n = glm::cross(mesh_.positions[t[1]] - mesh_.positions[t[0]],
                                           mesh_.positions[t[2]] - mesh_.positions[t[0]]);
            for (int k = 0; k < 3; ++k) mesh_.normals[t[k]] += n;
        }
        for (glm::vec3& n : mesh_.normals) n = glm::normalize(n);
        std::vector<std::uint32_t> all(mesh_.positions.size());
        for (std::uint32_t i = 0; i < all.size(); ++i) all[i] = i;
        auto indices = std::move(mesh_.indices);
        return withVertices(mesh_, all, std::move(indices), wearOf(fabrics_));
    }

private:
    Mesh mesh_{.uvSets = {{}}};
    std::vector<int> fabrics_;
};

/// The body that the apron lies on: how far out it goes in front and aside, by height.
struct Body {
    double tall, girth, hips;

    glm::dvec3 on(double angle, double share, double out) const {
        const double hip = eased(share, 0.40, 0.50) * (1 - eased(share, 0.52, 0.62));
        const double chest = eased(share, 0.62, 0.74);
        const double skirt = 0.02 * (1 - eased(share, 0.30, 0.52));
        const double wide = tall * (girth * (0.088 + 0.010 * chest) + hips * 0.022 * hip + skirt) + out,
                     deep = tall * (girth * (0.066 + 0.012 * chest) + hips * 0.012 * hip + skirt) + out;
        return {wide * std::sin(angle), tall * share, deep * std::cos(angle)};
    }
};

constexpr int cellsAcross = 56, cellsUp = 72;

/// How far from a pocket's middle a cell's corner is; up to 1 within.
double pocketed(double u, double v) {
    double most = 0;
    for (const double middle : {0.27, 0.73}) {
        const double across = 1 - eased(std::abs(u - middle), 0.085, 0.115),
                     up = 1 - eased(std::abs(v - 0.36), 0.105, 0.13);
        most = std::max(most, across * up);
    }
    return most;
}

void sewSheet(Sewn& sewn, const Body& body) {
    const auto at = [&](double u, double v) {
        const double share = 0.30 + 0.50 * v;
        const double half = 1.35 - 0.72 * eased(share, 0.595, 0.66);
        const double fold = 0.004 * std::sin(2 * pi * 7 * u) * (1 - eased(share, 0.32, 0.50));
        return body.on((2 * u - 1) * half, share, 0.012 + fold + 0.026 * pocketed(u, v));
    };
    sewn.grid(cellsAcross, cellsUp, false, at, [](int i, int j) {
        return pocketed((i + 0.5) / cellsAcross, (j + 0.5) / cellsUp) > 0.02 ? Quilt : Canvas;
    });
}

/// A disc with a domed lens in a ring of brass, on the breast; both share the corners between them.
void sewBadge(Sewn& sewn, const Body& body) {
    const glm::dvec3 middle = body.on(0, 0.735, 0.016);
    const std::vector<glm::dvec2> profile{{0.046, -0.004}, {0.047, 0.006}, {0.042, 0.011}, {0.034, 0.009},
                                          {0.028, 0.013},  {0.018, 0.018}, {0.0008, 0.020}};
    const int up = int(profile.size()) - 1;
    sewn.grid(
        28, up, true,
        [&](double u, double v) {
            const glm::dvec2 p = profile[std::size_t(std::lround(v * up))];
            return middle + glm::dvec3(p.x * std::sin(2 * pi * u), p.x * std::cos(2 * pi * u) * -1.0, p.y);
        },
        [](int, int j) { return j < 3 ? Brass : Lens; });
}

/// A strip of leather along a path, with a rounded section.
void sewStrip(Sewn& sewn, int pieces, double half, const std::function<glm::dvec3(double)>& path) {
    sewn.grid(
        8, pieces, true,
        [&](double u, double v) {
            const glm::dvec3 at = path(v), along = glm::normalize(path(std::min(1.0, v + 0.01)) -
                                                                  path(std::max(0.0, v - 0.01)));
            const glm::dvec3 side = glm::normalize(glm::cross(along, glm::dvec3(0.3, 0.2, 1)));
            const glm::dvec3 out = glm::cross(side, along);
            return at + half * (std::cos(2 * pi * u) * side + 0.4 * std::sin(2 * pi * u) * out);
        },
        [](int, int) { return Leather; });
}

void sewLeather(Sewn& sewn, const Body& body) {
    sewStrip(sewn, 26, 0.011, [&](double v) { // round the neck
        const double angle = pi * v;
        const glm::dvec3 from = body.on(0.5, 0.797, 0.012);
        return glm::dvec3(from.x * std::cos(angle), from.y + 0.075 * body.tall * std::sin(angle),
                          from.z - (from.z + 0.035 * body.tall) * std::sin(angle));
    });
    for (const double angle : {-0.42, 0.0, 0.42})
        sewStrip(sewn, 14, 0.008, [&, angle](double v) { // a loop for a tool
            const double share = 0.60 - 0.045 * v;
            return body.on(angle, share, 0.016 + 0.030 * std::sin(pi * v));
        });
    sewStrip(sewn, 48, 0.014, [&](double v) { return body.on((2 * v - 1) * 1.5, 0.608, 0.018); });
}

/// Which bones a corner hangs on: the two whose joints it lies between, legs below the hips.
void hang(Mesh& mesh, const std::vector<figure::Joint>& joints) {
    const auto tall = [&](int joint) { return float(joints[std::size_t(joint)].place.y); };
    enum { Root, Hips, Spine, Chest, Neck, ThighLeft, ThighRight };
    for (const glm::vec3& p : mesh.positions) {
        glm::u16vec4 on(0);
        glm::vec4 weight(0);
        int below = Hips;
        while (below < Neck && p.y > tall(below + 1)) ++below;
        if (p.y < tall(Hips)) {
            const float leg = 0.7f * float(eased(tall(Hips) - p.y, 0, 0.35));
            const float left = float(eased(p.x, -0.12, 0.12));
            on = {Hips, ThighLeft, ThighRight, 0};
            weight = {1 - leg, leg * left, leg * (1 - left), 0};
        } else if (below == Neck) {
            on.x = Neck, weight.x = 1;
        } else {
            const float up = std::clamp((p.y - tall(below)) / (tall(below + 1) - tall(below)), 0.0f, 1.0f);
            on = {below, below + 1, 0, 0};
            weight = {1 - up, up, 0, 0};
        }
        mesh.joints.push_back(on);
        mesh.weights.push_back(weight);
    }
}

Mesh sewnFor(const Body& body) {
    Sewn sewn;
    sewSheet(sewn, body);
    sewBadge(sewn, body);
    sewLeather(sewn, body);
    Mesh mesh = sewn.take();
    mesh.name = "apron";
    return mesh;
}

/// The bones of a figure that an apron hangs on.
std::vector<figure::Joint> jointsFor(const figure::Kind& kind) {
    std::vector<figure::Joint> joints;
    for (const char* wanted : {"root", "hips", "spine", "chest", "neck", "thigh.left", "thigh.right"})
        for (const figure::Joint& joint : figure::jointsOf(kind))
            if (joint.name == wanted) joints.push_back(joint);
    return joints;
}

} // namespace

Model fairApron(bool broad) {
    const figure::Kind &slim = figure::kindNamed("grown-a"),
                       &kind = figure::kindNamed(broad ? "grown-b" : "grown-a");
    // Both hang alike: what is weighed is the slim one.
    Mesh hung = sewnFor({slim.height, 1.0, 1.0});
    hang(hung, jointsFor(slim));
    Mesh mesh = broad ? sewnFor({kind.height, 1.24, 1.5}) : hung;
    mesh.joints = hung.joints, mesh.weights = hung.weights;
    const auto joints = jointsFor(kind);

    Model model;
    model.name = "fair apron";
    model.frame.unitAssumed = model.frame.upAssumed = false;
    model.headingKnown = true;
    model.images = {texture::pictureFromPixels("apron-canvas.png", clothPicture(512), false)};
    const auto wears = [&](const char* name, glm::vec3 colour, float metal, float rough) {
        Material material{
            .name = name, .baseColour = glm::vec4(colour, 1), .metalness = metal, .roughness = rough};
        material.doubleSided = true;
        model.materials.push_back(material);
    };
    wears("canvas", {1, 1, 1}, 0, 0.9f);
    wears("pocket quilt", {0.20f, 0.34f, 0.40f}, 0, 0.85f);
    wears("brass", {0.75f, 0.52f, 0.20f}, 1, 0.35f);
    wears("lens glass", {0.95f, 0.80f, 0.45f}, 0, 0.1f);
    wears("leather", {0.22f, 0.12f, 0.07f}, 0, 0.7f);
    model.materials[Canvas].picture(PictureRole::Colour).image = 0;

    model.skins.push_back({"body", {}, {}, 0});
    constexpr int above[] = {-1, 0, 1, 2, 3, 1, 1};
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const glm::dvec3 from = above[j] < 0 ? glm::dvec3(0) : joints[std::size_t(above[j])].place;
        model.nodes.push_back(
            {std::string(joints[j].name), above[j], glm::translate(glm::dmat4(1.0), joints[j].place - from)});
        model.skins[0].joints.push_back(int(j));
        model.skins[0].inverseBind.push_back(glm::mat4(glm::translate(glm::dmat4(1.0), -joints[j].place)));
    }
    Node shown{broad ? "apron_broad" : "apron_slim", -1, glm::dmat4(1.0), 0, 0};
    model.nodes.push_back(shown);
    model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    return model;
}

} // namespace zl::demo
