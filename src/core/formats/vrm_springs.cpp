// What swings, and what turns as something else does (VRMC_springBone-1.0, VRMC_node_constraint-1.0), read.
#include "core/formats/gltf_json.h"
#include "core/formats/vrm.h"

#include "core/model/avatar.h"

#include <algorithm>

namespace zl::formats {

namespace {

using Json = nlohmann::json;

double heldIn(const Json& json, const char* key, double otherwise, double most) {
    return std::clamp(numberIn(json, key, otherwise), 0.0, most);
}

} // namespace

void readSprings(const Json& json, const GltfPlaces& from, Model& model, Avatar& avatar) {
    for (const Json& one : listIn(json, "colliders")) { // each keeps its number, also one that is nowhere
        SpringCollider collider{keyIn(one, "node", from, model), glm::dvec3(0), std::nullopt, 0};
        const Json &shape = objectIn(one, "shape"), &capsule = objectIn(shape, "capsule");
        const bool isCapsule = !capsule.empty();
        const Json& of = isCapsule ? capsule : objectIn(shape, "sphere");
        collider.from = placeIn(of, "offset", glm::dvec3(0));
        if (isCapsule) collider.to = placeIn(of, "tail", glm::dvec3(0));
        collider.radius = heldIn(of, "radius", 0, 1e6);
        avatar.colliders.push_back(collider);
    }
    for (const Json& one : listIn(json, "colliderGroups"))
        avatar.groups.push_back({textIn(one, "name"), indicesIn(one, "colliders", avatar.colliders.size())});
    for (const Json& one : listIn(json, "springs")) {
        Spring spring{textIn(one, "name"),
                      {},
                      indicesIn(one, "colliderGroups", avatar.groups.size()),
                      keyIn(one, "center", from, model)};
        for (const Json& bone : listIn(one, "joints")) {
            SpringJoint joint{.node = keyIn(bone, "node", from, model)};
            if (joint.node == 0) continue;
            joint.radius = heldIn(bone, "hitRadius", 0, 1e6);
            joint.stiffness = heldIn(bone, "stiffness", 1, 1e6);
            joint.gravity = heldIn(bone, "gravityPower", 0, 1e6);
            joint.drag = heldIn(bone, "dragForce", 0.5, 1);
            joint.gravityTo = placeIn(bone, "gravityDir", {0, -1, 0});
            spring.joints.push_back(joint);
        }
        if (spring.joints.empty())
            model.dropped.push_back("avatar: a spring without bones");
        else
            avatar.springs.push_back(std::move(spring));
    }
}

void readConstraints(const GltfPlaces& from, Model& model, Avatar& avatar) {
    for (std::size_t n = 0; n < from.source.nodes.size(); ++n) {
        const auto& extensions = from.source.nodes[n].extensions;
        const auto found = extensions.find("VRMC_node_constraint");
        if (found == extensions.end() || from.nodes[n] < 0) continue;
        const Json json = jsonOf(found->second);
        bool read = false;
        for (const char* kind : {"roll", "aim", "rotation"}) {
            const Json& one = objectIn(objectIn(json, "constraint"), kind);
            const int source = keyIn(one, "source", from, model);
            if (source == 0) continue;
            const Json own{{"node", n}};
            avatar.constraints.push_back(
                {keyIn(own, "node", from, model), source, kind,
                 textIn(one, kind == std::string_view("aim") ? "aimAxis" : "rollAxis"),
                 heldIn(one, "weight", 1, 1)});
            read = true;
        }
        if (!read) model.dropped.push_back("avatar: a constraint that follows nothing");
    }
}

} // namespace zl::formats
