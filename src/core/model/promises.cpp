#include "core/model/promises.h"

#include "core/model/avatar.h"
#include "core/model/on_map.h"

#include "core/base/utf8.h"
#include "core/model/finite.h"

#include <fmt/format.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

#include <algorithm>

namespace zl {

namespace {

bool holdsForAll(std::size_t count, const auto& holds) {
    using Range = tbb::blocked_range<std::size_t>;
    return tbb::parallel_reduce(
        Range(0, count, 1 << 16), true,
        [&](const Range& range, bool all) {
            for (std::size_t i = range.begin(); all && i != range.end(); ++i) all = holds(i);
            return all;
        },
        std::logical_and());
}

template <class T>
bool allFinite(const std::vector<T>& values) {
    return holdsForAll(values.size(), [&](std::size_t i) { return isFinite(values[i]); });
}

bool inRange(int index, std::size_t count) {
    return index >= -1 && index < static_cast<int>(count);
}

bool runsCoverAll(const Mesh& mesh) {
    std::size_t covered = 0;
    for (const MaterialRun& run : mesh.runs) {
        if (run.firstTriangle != covered) return false;
        covered += run.triangleCount;
    }
    return covered == mesh.triangleCount();
}

std::string brokenArray(const Mesh& mesh) {
    const std::size_t n = mesh.positions.size();
    std::string broken;
    const auto check = [&](const auto& values, std::string_view what, bool mayBeEmpty = true) {
        if (!broken.empty()) return;
        if (values.size() != n && !(mayBeEmpty && values.empty()))
            broken = fmt::format("has {} {} for {} corners", values.size(), what, n);
        else if constexpr (requires { isFinite(values[0]); })
            if (!allFinite(values)) broken = fmt::format("has {} that are no numbers", what);
    };
    check(mesh.positions, "corners");
    check(mesh.normals, "normals");
    check(mesh.tangents, "tangents");
    for (const auto& set : mesh.uvSets) check(set, "UVs");
    check(mesh.colours, "colours");
    check(mesh.weights, "weights");
    for (const MorphTarget& morph : mesh.morphs) {
        check(morph.positions, "morph offsets", false);
        check(morph.normals, "morph normals");
    }
    if (broken.empty() && mesh.joints.size() != mesh.weights.size())
        broken = "has joints and weights of different number";
    return broken;
}

std::string brokenNode(const Model& model, std::size_t n) {
    const Node& node = model.nodes[n];
    if (node.parent < -1 || node.parent >= static_cast<int>(n)) return "stands before its parent";
    if (!inRange(node.mesh, model.meshes.size())) return "shows a mesh that is not there";
    if (!inRange(node.skin, model.skins.size())) return "has a skin that is not there";
    if (!isFinite(node.local)) return "stands at no number";
    if (node.level < 0 || node.level >= mostLevels) return "is at a level that there is not";
    if (!isUtf8(node.name)) return "has a name that is not UTF-8";
    for (const auto& [place, name] : node.marks)
        if (place < 0 || place > mostMarkPlace || !isUtf8(name)) return "has a mark of no sense";
    if (node.skin < 0 || node.mesh < 0) return {};
    const std::size_t bones = model.skins[node.skin].joints.size();
    const auto& joints = model.meshes[node.mesh]->joints;
    const bool within = holdsForAll(joints.size(), [&](std::size_t i) {
        return std::max({joints[i].x, joints[i].y, joints[i].z, joints[i].w}) < bones;
    });
    return within ? "" : "weighs corners to bones that its skin does not have";
}

std::string brokenSkin(const Skin& skin, std::size_t nodes) {
    if (skin.joints.size() != skin.inverseBind.size()) return "has not one bind matrix a bone";
    for (const int joint : skin.joints)
        if (joint < 0 || joint >= static_cast<int>(nodes)) return "has a bone that is not there";
    if (!inRange(skin.root, nodes)) return "has a root that is not there";
    for (const glm::mat4& bind : skin.inverseBind)
        if (!isFinite(bind)) return "has a bind matrix of no numbers";
    return isUtf8(skin.name) ? "" : "has a name that is not UTF-8";
}

std::string brokenMaterial(const Material& m, std::size_t images) {
    for (const PictureUse& use : m.pictures) {
        if (!inRange(use.image, images)) return "has a picture that is not there";
        if (use.uvSet < 0 || use.uvSet >= mostUvSets) return "has a picture on UVs that are not there";
        if (!isFinite(use.placement.offset) || !isFinite(use.placement.scale) ||
            !std::isfinite(use.placement.turn))
            return "has a picture that lies at no number";
    }
    if (!isFinite(m.baseColour) || !isFinite(m.emission) || !std::isfinite(m.metalness) ||
        !std::isfinite(m.roughness) || !std::isfinite(m.alphaCutoff))
        return "has settings that are no numbers";
    return isUtf8(m.name) ? "" : "has a name that is not UTF-8";
}

std::string brokenSlot(const ClipSlot& slot, const Model& model) {
    if (slot.clip < 0 || slot.clip >= static_cast<int>(model.clips.size()))
        return "plays a clip that is not there";
    return isUtf8(slot.name) ? "" : "has a name that is not UTF-8";
}

std::string brokenClip(const Clip& clip, const Model& model) {
    for (const Channel& channel : clip.channels)
        if (!isWholeChannel(channel, model)) return "has a channel of broken keys";
    if (!isFinite(clip.way)) return "has a way of no value";
    return isUtf8(clip.name) ? "" : "has a name that is not UTF-8";
}

bool areIndices(const std::vector<int>& indices, std::size_t size) {
    return std::ranges::all_of(indices, [&](int i) { return i >= 0 && i < int(size); });
}

std::string brokenAvatar(const Avatar& avatar) {
    for (const Expression& e : avatar.expressions) {
        if (e.name.empty() || !isUtf8(e.name)) return "has an expression whose name is not UTF-8";
        for (const auto& bind : e.morphs)
            if (!isUtf8(bind.morph) || !std::isfinite(bind.weight)) return "has an expression of no sense";
        for (const auto& bind : e.colours)
            if (!isFinite(bind.to)) return "has an expression of no colour";
        for (const auto& bind : e.placements)
            if (!isFinite(bind.scale) || !isFinite(bind.offset)) return "has an expression that lies nowhere";
    }
    if (avatar.lookAt && !isFinite(avatar.lookAt->eyes)) return "looks from no number";
    for (const SpringCollider& c : avatar.colliders)
        if (!isFinite(c.from) || (c.to && !isFinite(*c.to)) || !(c.radius >= 0))
            return "has a collider of no number";
    for (const ColliderGroup& group : avatar.groups)
        if (!areIndices(group.colliders, avatar.colliders.size())) return "has a collider that is not there";
    for (const Spring& spring : avatar.springs)
        if (!areIndices(spring.groups, avatar.groups.size()))
            return "has a group of colliders that is not there";
    return {};
}

} // namespace

std::size_t numbersOfKey(const Channel& channel, const Model& model) {
    const std::size_t values = channel.curve == Channel::Curve::CubicSpline ? 3 : 1;
    switch (channel.target) {
    case Channel::Target::Translation:
    case Channel::Target::Scale:
        return 3 * values;
    case Channel::Target::Rotation:
        return 4 * values;
    case Channel::Target::Weights:
        break;
    }
    const int mesh = model.nodes[channel.node].mesh;
    return mesh < 0 || mesh >= static_cast<int>(model.meshes.size())
               ? 0
               : values * model.meshes[mesh]->morphs.size();
}

bool isWholeChannel(const Channel& channel, const Model& model) {
    if (channel.node < 0 || channel.node >= static_cast<int>(model.nodes.size())) return false;
    const auto finite = [](float v) { return std::isfinite(v); };
    return !channel.times.empty() && std::ranges::all_of(channel.times, finite) &&
           std::ranges::is_sorted(channel.times) && std::ranges::all_of(channel.values, finite) &&
           channel.values.size() == channel.times.size() * numbersOfKey(channel, model);
}

std::string brokenPromise(const Mesh& mesh) {
    if (std::string broken = brokenArray(mesh); !broken.empty()) return broken;
    if (mesh.indices.size() % 3 != 0) return "has indices that do not make whole triangles";
    const std::size_t n = mesh.positions.size();
    if (!holdsForAll(mesh.indices.size(), [&](std::size_t i) { return mesh.indices[i] < n; }))
        return "has triangles on corners that are not there";
    if (!mesh.surfaces.empty() && mesh.surfaces.size() != mesh.triangleCount())
        return fmt::format("has {} surface kinds for {} triangles", mesh.surfaces.size(),
                           mesh.triangleCount());
    if (!runsCoverAll(mesh)) return "has runs of materials that do not cover its triangles";
    if (!isUtf8(mesh.name)) return "has a name that is not UTF-8";
    for (const MorphTarget& morph : mesh.morphs)
        if (!isUtf8(morph.name)) return "has a morph target whose name is not UTF-8";
    return {};
}

namespace {

/// `brokenMesh` says what a mesh that the model shows breaks within itself.
std::string brokenModel(const Model& model, const auto& brokenMesh) {
    const auto told = [](std::string_view kind, const std::string& name, const std::string& broken) {
        return broken.empty() ? broken : fmt::format("the {} \"{}\" {}", kind, asUtf8(name), broken);
    };
    std::string broken;
    const auto each = [&](const auto& things, std::string_view kind, const auto& brokenOf) {
        for (std::size_t i = 0; i < things.size() && broken.empty(); ++i) {
            if constexpr (requires { *things[i]; }) {
                if (!things[i])
                    broken = fmt::format("a {} is missing", kind);
                else
                    broken = told(kind, things[i]->name, brokenOf(i));
            } else {
                broken = told(kind, things[i].name, brokenOf(i));
            }
        }
    };
    const auto surfacesExist = [&](const Mesh& mesh) {
        return std::ranges::all_of(mesh.surfaces,
                                   [&](int kind) { return inRange(kind, model.surfaceKinds.size()); });
    };
    const auto materialsExist = [&](const Mesh& mesh) -> std::string {
        for (const MaterialRun& run : mesh.runs)
            if (!inRange(run.material, model.materials.size())) return "has a material that is not there";
        return surfacesExist(mesh) ? brokenMesh(mesh) : "has a surface kind that is not there";
    };
    each(model.meshes, "mesh", [&](std::size_t i) { return materialsExist(*model.meshes[i]); });
    each(model.skins, "skin", [&](std::size_t i) { return brokenSkin(model.skins[i], model.nodes.size()); });
    each(model.nodes, "node", [&](std::size_t i) { return brokenNode(model, i); });
    each(model.images, "picture",
         [&](std::size_t i) { return isUtf8(model.images[i]->name) ? "" : "has a name that is not UTF-8"; });
    each(model.materials, "material",
         [&](std::size_t i) { return brokenMaterial(model.materials[i], model.images.size()); });
    each(model.clips, "clip", [&](std::size_t i) { return brokenClip(*model.clips[i], model); });
    each(model.clipSlots, "slot", [&](std::size_t i) { return brokenSlot(model.clipSlots[i], model); });
    each(model.colliders, "collider", [&](std::size_t i) {
        const Collider& collider = model.colliders[i];
        return !collider.mesh                   ? "has no shape"
               : !isFinite(collider.placement)  ? "stands at no number"
               : !surfacesExist(*collider.mesh) ? "has a surface kind that is not there"
                                                : brokenPromise(*collider.mesh);
    });
    for (const std::string& kind : model.surfaceKinds)
        if (broken.empty() && (kind.empty() || !isUtf8(kind))) broken = "a surface kind has no name in UTF-8";
    if (broken.empty() && model.surfaceKinds.size() > mostSurfaceKinds)
        broken = fmt::format("the model knows {} surface kinds", model.surfaceKinds.size());
    if (broken.empty() && model.onMap)
        for (const MapPlace& place : model.onMap->places)
            if (!isFinite(place.at) || !std::isfinite(glm::dot(place.turn, place.turn)))
                broken = "a place on the map is no number";
    if (broken.empty() && model.avatar) broken = told("set-up of", model.name, brokenAvatar(*model.avatar));
    if (broken.empty() && !isFinite(model.placement)) broken = "the model is placed at no number";
    if (broken.empty() && !isUtf8(model.name)) broken = "the model's name is not UTF-8";
    return broken;
}

} // namespace

std::string brokenPromise(const Model& model) {
    return brokenModel(model, [](const Mesh& mesh) { return brokenPromise(mesh); });
}

std::string brokenAroundMeshes(const Model& model) {
    return brokenModel(model, [](const Mesh&) { return std::string(); });
}

} // namespace zl
