#include "core/geometry/bake.h"

#include "core/geometry/moving_nodes.h"
#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

#include <array>
#include <cmath>
#include <map>
#include <set>

namespace zl::geometry {

bool carriesTransform(const glm::dmat4& local, double tolerance) {
    for (int c = 0; c < 4; ++c)
        for (int r = 0; r < 4; ++r)
            if (!(std::abs(local[c][r] - (c == r ? 1.0 : 0.0)) <= tolerance)) return true;
    return false;
}

namespace {

/// A turn, a move and an even scale.
struct Similarity {
    glm::dmat4 matrix{1.0};
    glm::dquat turn{1, 0, 0, 0};
    double scale = 1;
};

std::optional<Similarity> similarityOf(const glm::dmat4& m) {
    const glm::dmat3 linear(m);
    const double determinant = glm::determinant(linear);
    if (!(determinant > 0)) return std::nullopt;
    const double scale = std::cbrt(determinant);
    const glm::dmat3 turn = linear / scale;
    const glm::dmat3 rest = glm::transpose(turn) * turn - glm::dmat3(1.0);
    for (int i = 0; i < 9; ++i)
        if (std::abs(rest[i / 3][i % 3]) > 1e-6) return std::nullopt;
    return Similarity{m, glm::normalize(glm::quat_cast(turn)), scale};
}

/// The move and the turn of a matrix, its axes brought to right angles one after the other (Gram and
/// Schmidt). Where two of them coincide, nothing is turned.
glm::dmat4 withoutScale(const glm::dmat4& m) {
    glm::dvec3 z = glm::normalize(glm::dvec3(m[2]));
    glm::dvec3 y = glm::dvec3(m[1]) - z * glm::dot(z, glm::dvec3(m[1]));
    y = glm::normalize(y);
    const glm::dmat3 turn(glm::cross(y, z), y, z);
    const bool usable = std::abs(glm::determinant(turn) - 1) < 1e-9;
    glm::dmat4 out = usable ? glm::dmat4(turn) : glm::dmat4(1.0);
    out[3] = m[3];
    return out;
}

/// The keys of one channel carried into the space behind `by`.
void carryKeys(Channel& channel, const Similarity& by) {
    const bool spline = channel.curve == Channel::Curve::CubicSpline;
    const auto isPoint = [&](std::size_t value) { return !spline || value % 3 == 1; }; // else a tangent
    const auto eachThree = [&](const auto& change) {
        for (std::size_t i = 0; i + 2 < channel.values.size(); i += 3) {
            glm::dvec3 v(channel.values[i], channel.values[i + 1], channel.values[i + 2]);
            v = change(v, isPoint(i / 3));
            for (int k = 0; k < 3; ++k) channel.values[i + k] = static_cast<float>(v[k]);
        }
    };
    switch (channel.target) {
    case Channel::Target::Translation:
        eachThree([&](const glm::dvec3& v, bool point) {
            return glm::dvec3(by.matrix * glm::dvec4(v, point ? 1.0 : 0.0));
        });
        break;
    case Channel::Target::Scale:
        eachThree([&](const glm::dvec3& v, bool) { return v * by.scale; });
        break;
    case Channel::Target::Rotation:
        for (std::size_t i = 0; i + 3 < channel.values.size(); i += 4) {
            const glm::dquat q(channel.values[i + 3], channel.values[i], channel.values[i + 1],
                               channel.values[i + 2]);
            const glm::dquat turned = by.turn * q;
            const double parts[] = {turned.x, turned.y, turned.z, turned.w};
            for (int k = 0; k < 4; ++k) channel.values[i + k] = static_cast<float>(parts[k]);
        }
        break;
    case Channel::Target::Weights:
        break;
    }
}

class Baker {
public:
    Baker(const Model& model, const std::function<bool(const Node&)>& chosen, Baked what)
        : in_(model), chosen_(chosen), what_(what), world_(worldMatrices(model)),
          rest_(model.nodes.size(), glm::dmat4(1.0)), keepsTransform_(model.nodes.size(), false) {}

    BakeResult run() {
        result_.model = in_;
        result_.model.placement = glm::dmat4(1.0);
        markMoving();
        carried_.resize(in_.nodes.size());
        for (std::size_t n = 0; n < in_.nodes.size(); ++n) placeNode(n);
        bakeMeshes();
        carryClips();
        // What is left of the file's frame is only whether it was ever confirmed.
        result_.model.frame.unit = {"m", "metres", 1.0};
        result_.model.frame.up = Up::Y;
        return std::move(result_);
    }

private:
    void markMoving() {
        moves_ = movingNodes(in_);
        // A node right above a moving one whose world matrix is no similarity has to stay.
        for (std::size_t n = 0; n < in_.nodes.size(); ++n) {
            const int parent = in_.nodes[n].parent;
            if (moves_[n] && parent >= 0 && !moves_[parent] && !similarityOf(world_[parent]))
                keepsTransform_[parent] = true;
        }
    }

    /// Chooses the node's new transform: none where it can be, else whatever keeps its place. `rest_` is what
    /// is still to go into the corners; working with it alone needs no inverse, which flattened nodes do not
    /// have.
    void placeNode(std::size_t n) {
        const Node& node = in_.nodes[n];
        const glm::dmat4& above = node.parent >= 0 ? rest_[node.parent] : in_.placement;
        const glm::dmat4 all = above * node.local;
        const bool flatOnBones = node.skin >= 0 && node.mesh >= 0 && !(std::abs(glm::determinant(all)) > 0);
        glm::dmat4 local(1.0);
        if (moves_[n]) {
            local = node.local;
            if (carriesTransform(above, 1e-12)) {
                // Its parent was baked, so what the parent did goes into the node and its keys. Where keys
                // cannot hold that, the parent was left as it was (keepsTransform_).
                carried_[n] = similarityOf(above);
                local = all;
            }
            if (carriesTransform(local)) result_.moving.push_back(node.name);
        } else if ((chosen_ && !chosen_(node)) || keepsTransform_[n] || flatOnBones) {
            local = all;
        } else {
            rest_[n] = all;
            if (what_ == Baked::ScaleOnly) {
                local = withoutScale(all);
                rest_[n] = glm::inverse(local) * all;
            }
            if (what_ == Baked::ScaleOnly
                    ? carriesTransform(rest_[n])
                    : carriesTransform(node.local) || (node.parent < 0 && carriesTransform(in_.placement)))
                result_.baked.push_back(node.name);
        }
        result_.model.nodes[n].local = local;
    }

    void bakeMeshes() {
        std::map<std::pair<int, std::array<double, 16>>, int> made; // copies that share a matrix stay shared
        result_.model.meshes.clear();
        for (std::size_t n = 0; n < in_.nodes.size(); ++n) {
            Node& node = result_.model.nodes[n];
            if (node.mesh < 0) continue;
            const glm::dmat4& matrix = rest_[n];
            std::array<double, 16> key{};
            for (int i = 0; i < 16; ++i) key[i] = matrix[i / 4][i % 4];
            const auto [entry, fresh] = made.try_emplace({node.mesh, key}, int(result_.model.meshes.size()));
            if (fresh) {
                const auto& mesh = in_.meshes[node.mesh];
                result_.model.meshes.push_back(carriesTransform(matrix, 0)
                                                   ? std::make_shared<const Mesh>(transformed(*mesh, matrix))
                                                   : mesh);
            }
            node.mesh = entry->second;
            if (node.skin >= 0) rebind(node, matrix);
        }
    }

    /// A skinned corner is weight · bone · bind · corner; the corner took `matrix`, so the bind gives it
    /// back.
    void rebind(Node& node, const glm::dmat4& matrix) {
        if (!carriesTransform(matrix, 0)) return;
        Skin skin = in_.skins[node.skin];
        const glm::dmat4 back = glm::inverse(matrix);
        for (glm::mat4& bind : skin.inverseBind) bind = glm::mat4(glm::dmat4(bind) * back);
        if (usedSkins_.insert(node.skin).second) {
            result_.model.skins[node.skin] = std::move(skin);
        } else { // two meshes on one skin need a bind of their own
            node.skin = static_cast<int>(result_.model.skins.size());
            result_.model.skins.push_back(std::move(skin));
        }
    }

    void carryClips() {
        for (auto& clip : result_.model.clips) {
            auto copy = std::make_shared<Clip>(*clip);
            copy->way = glm::dmat3(in_.placement) * clip->way;
            bool changed = copy->way != clip->way;
            for (Channel& channel : copy->channels)
                if (channel.node >= 0 && carried_[channel.node]) {
                    carryKeys(channel, *carried_[channel.node]);
                    changed = true;
                }
            if (changed) clip = std::move(copy);
        }
    }

    const Model& in_;
    const std::function<bool(const Node&)>& chosen_;
    Baked what_;
    std::vector<glm::dmat4> world_, rest_;
    std::vector<char> moves_;
    std::vector<bool> keepsTransform_;
    std::vector<std::optional<Similarity>> carried_;
    std::set<int> usedSkins_;
    BakeResult result_;
};

} // namespace

BakeResult baked(const Model& model, const std::function<bool(const Node&)>& chosen, Baked what) {
    return Baker(model, chosen, what).run();
}

} // namespace zl::geometry
