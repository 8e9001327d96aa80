#include "jointed.h"

#include "core/geometry/normals.h"
#include "core/motion/bone_turns.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace zl::demo {

double eased(double x, double from, double to) {
    const double t = std::clamp((x - from) / (to - from), 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

glm::dquat degrees(double x, double y, double z) {
    return motion::turnOf(glm::radians(x), glm::radians(y), glm::radians(z));
}

double wave(double t, double shift) {
    return std::sin(2 * std::numbers::pi * (t + shift));
}

Jointed& Jointed::wear(int material, glm::dvec4 onPicture, int part) {
    material_ = material, onPicture_ = onPicture, part_ = part;
    return *this;
}

Jointed& Jointed::hang(Hang hang) {
    hang_ = std::move(hang);
    return *this;
}

Jointed& Jointed::hangOn(int bone) {
    return hang([bone](const glm::dvec3&) { return Hung{bone, bone, 0}; });
}

void Jointed::corner(const glm::dvec3& place, double u, double v) {
    const Hung on = hang_(place);
    const float second = on.second == on.first ? 0 : std::clamp(on.onSecond, 0.0f, 1.0f);
    mesh_.positions.emplace_back(place);
    mesh_.uvSets[0].emplace_back(onPicture_.x + u * onPicture_.z, onPicture_.y + (1 - v) * onPicture_.w);
    mesh_.joints.emplace_back(on.first, second > 0 ? on.second : 0, 0, 0);
    mesh_.weights.emplace_back(1 - second, second, 0, 0);
    own_.emplace_back(u, v);
    parts_.push_back(part_);
}

void Jointed::triangle(std::size_t a, std::size_t b, std::size_t c) {
    for (const std::size_t v : {a, b, c}) mesh_.indices.push_back(std::uint32_t(v));
    materials_.push_back(material_);
}

Jointed& Jointed::tube(const std::vector<Ring>& rings, int sides) {
    const auto closed = [](const Ring& ring) { return glm::length(ring.u) + glm::length(ring.v) < 1e-9; };
    double length = 0;
    std::vector<double> along{0};
    for (std::size_t k = 1; k < rings.size(); ++k) {
        length += glm::length(rings[k].middle - rings[k - 1].middle) +
                  std::abs(glm::length(rings[k].u) - glm::length(rings[k - 1].u));
        along.push_back(length);
    }
    const std::size_t first = mesh_.positions.size(), columns = std::size_t(sides) + 1;
    for (std::size_t k = 0; k < rings.size(); ++k)
        for (std::size_t i = 0; i < columns; ++i) {
            const double a = 2 * std::numbers::pi * double(i) / sides;
            corner(rings[k].middle + std::cos(a) * rings[k].u + std::sin(a) * rings[k].v, double(i) / sides,
                   along[k] / length);
        }
    for (std::size_t k = 0; k + 1 < rings.size(); ++k)
        for (std::size_t i = 0; i + 1 < columns; ++i) {
            const std::size_t a = first + k * columns + i, b = a + 1, c = a + columns, d = c + 1;
            if (!closed(rings[k])) triangle(a, b, d);
            if (!closed(rings[k + 1])) triangle(a, d, c);
        }
    return *this;
}

Jointed& Jointed::sheet(int across, int up, const Sheet& at) {
    const std::size_t first = mesh_.positions.size(), columns = std::size_t(across) + 1;
    for (int j = 0; j <= up; ++j)
        for (int i = 0; i <= across; ++i) {
            const double u = double(i) / across, v = double(j) / up;
            corner(at(u, v), u, v);
        }
    for (std::size_t j = 0; j < std::size_t(up); ++j)
        for (std::size_t i = 0; i < std::size_t(across); ++i) {
            const std::size_t a = first + j * columns + i;
            triangle(a, a + 1, a + columns + 1), triangle(a, a + columns + 1, a + columns);
        }
    return *this;
}

Jointed& Jointed::ball(glm::dvec3 middle, glm::dvec3 halfAxes, int sides, int rings) {
    std::vector<Ring> all;
    for (int k = 0; k <= rings; ++k) {
        const double a = std::numbers::pi * k / rings;
        const double r = k == 0 || k == rings ? 0 : std::sin(a);
        all.push_back({middle - glm::dvec3(0, halfAxes.y * std::cos(a), 0),
                       {0, 0, -halfAxes.z * r},
                       {-halfAxes.x * r, 0, 0}});
    }
    return tube(all, sides);
}

Jointed& Jointed::morph(const std::string& name, const std::vector<int>& parts, const Shift& shift) {
    auto found = std::ranges::find(mesh_.morphs, name, &MorphTarget::name);
    if (found == mesh_.morphs.end()) found = mesh_.morphs.insert(found, {name, {}, {}});
    found->positions.resize(mesh_.positions.size(), glm::vec3(0));
    for (std::size_t v = 0; v < mesh_.positions.size(); ++v)
        if (std::ranges::find(parts, parts_[v]) != parts.end())
            found->positions[v] += glm::vec3(shift(glm::dvec3(mesh_.positions[v]), own_[v].x, own_[v].y));
    return *this;
}

Mesh Jointed::take(const std::string& name, double crease) {
    std::vector<std::uint32_t> all(mesh_.positions.size());
    for (std::uint32_t v = 0; v < all.size(); ++v) all[v] = v;
    auto indices = std::move(mesh_.indices);
    Mesh sorted = geometry::withNormals(withVertices(mesh_, all, std::move(indices), wearOf(materials_)),
                                        crease, geometry::NormalWeight::Area);
    sorted.name = name;
    return sorted;
}

int addBones(Model& model, const std::vector<DrawnBone>& bones, int above, const std::string& skin) {
    const int first = int(model.nodes.size());
    Skin made{skin, {}, {}, first};
    for (const DrawnBone& bone : bones) {
        const glm::dvec3 from = bone.above < 0 ? glm::dvec3(0) : bones[std::size_t(bone.above)].place;
        model.nodes.push_back({std::string(bone.name), bone.above < 0 ? above : first + bone.above,
                               glm::translate(glm::dmat4(1.0), bone.place - from)});
        made.joints.push_back(int(model.nodes.size()) - 1);
        made.inverseBind.emplace_back(glm::translate(glm::dmat4(1.0), -bone.place));
    }
    model.skins.push_back(std::move(made));
    return first;
}

Channel& Sampled::channel(int node, Channel::Target target) {
    Channel made{node, target, Channel::Curve::Linear, {}, {}};
    for (int f = 0; f <= frames_; ++f) made.times.push_back(float(seconds_ * f / frames_));
    clip_.channels.push_back(std::move(made));
    return clip_.channels.back();
}

Sampled& Sampled::turn(int node, const TurnOverTime& turn) {
    Channel& made = channel(node, Channel::Target::Rotation);
    for (int f = 0; f <= frames_; ++f) {
        const glm::dquat q = turn(double(f) / frames_);
        for (const double number : {q.x, q.y, q.z, q.w}) made.values.push_back(float(number));
    }
    return *this;
}

Sampled& Sampled::place(int node, const PlaceOverTime& place) {
    Channel& made = channel(node, Channel::Target::Translation);
    for (int f = 0; f <= frames_; ++f) {
        const glm::dvec3 p = place(double(f) / frames_);
        for (int k = 0; k < 3; ++k) made.values.push_back(float(p[k]));
    }
    return *this;
}

Sampled& Sampled::weights(int node, std::size_t targets,
                          const std::function<std::vector<float>(double)>& at) {
    Channel& made = channel(node, Channel::Target::Weights);
    for (int f = 0; f <= frames_; ++f) {
        auto values = at(double(f) / frames_);
        values.resize(targets);
        made.values.insert(made.values.end(), values.begin(), values.end());
    }
    return *this;
}

} // namespace zl::demo
