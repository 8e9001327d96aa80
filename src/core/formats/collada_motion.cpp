#include "core/formats/collada_motion.h"

#include "core/formats/collada_xml.h"
#include "core/formats/xml_text.h"
#include "core/motion/pose.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

namespace zl::formats::collada {

namespace {

void writeSkin(pugi::xml_node library, const Model& model, std::size_t n) {
    const Node& node = model.nodes[n];
    const Mesh& mesh = *model.meshes[node.mesh];
    const Skin& skin = model.skins[node.skin];
    const std::string id = skinId(n);
    auto controller = withId(library, "controller", id);
    controller.append_attribute("name") = xmlText(skin.name).c_str();
    auto target = controller.append_child("skin");
    target.append_attribute("source") = fmt::format("#mesh-{}", node.mesh).c_str();
    child(target, "bind_shape_matrix", matrixText(glm::dmat4(1.0)));

    std::vector<std::string> joints;
    for (const int joint : skin.joints) joints.push_back(fmt::format("node-{}", joint));
    addWords(target, id + "-joints", joints, "Name_array", "JOINT", "name");
    addMatrices(target, id + "-binds",
                std::vector<glm::dmat4>(skin.inverseBind.begin(), skin.inverseBind.end()), "TRANSFORM");
    std::vector<float> weights;
    std::string counts, pairs;
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        int count = 0;
        for (int k = 0; k < 4; ++k) {
            if (!(mesh.weights[v][k] > 0) || mesh.joints[v][k] >= joints.size()) continue;
            pairs += fmt::format("{} {} ", mesh.joints[v][k], weights.size());
            weights.push_back(mesh.weights[v][k]);
            ++count;
        }
        counts += fmt::format("{} ", count);
    }
    addFloats(target, id + "-weights", weights, {"WEIGHT"});
    auto binding = target.append_child("joints");
    addInput(binding, "JOINT", id + "-joints");
    addInput(binding, "INV_BIND_MATRIX", id + "-binds");
    auto weighing = target.append_child("vertex_weights");
    weighing.append_attribute("count") = static_cast<unsigned long long>(mesh.vertexCount());
    addInput(weighing, "JOINT", id + "-joints", 0);
    addInput(weighing, "WEIGHT", id + "-weights", 1);
    child(weighing, "vcount", counts);
    child(weighing, "v", pairs);
}

/// The nodes that a clip moves, each with the times its pose is taken at.
using Moving = std::map<int, std::vector<double>>;

/// One node's keys in one clip.
void writeKeys(pugi::xml_node animation, const Model& model, const Clip& clip, int node,
               const std::vector<double>& times, const glm::dmat4& rootMatrix, const std::string& id) {
    std::vector<glm::dmat4> poses;
    for (const double time : times) {
        const glm::dmat4 local = motion::localAt(model, clip, node, time);
        poses.push_back(model.nodes[node].parent >= 0 ? local : rootMatrix * local);
    }
    addFloats(animation, id + "-times", std::vector<float>(times.begin(), times.end()), {"TIME"});
    addMatrices(animation, id + "-poses", poses, "TRANSFORM");
    addWords(animation, id + "-curves", std::vector<std::string>(times.size(), "LINEAR"), "Name_array",
             "INTERPOLATION", "name");
    auto sampler = withId(animation, "sampler", id + "-sampler");
    addInput(sampler, "INPUT", id + "-times");
    addInput(sampler, "OUTPUT", id + "-poses");
    addInput(sampler, "INTERPOLATION", id + "-curves");
}

/// One clip as one `<animation>`, which some readers take for the clip itself: its sources and samplers
/// first, then its channels.
void writeClip(pugi::xml_node library, const Model& model, const Clip& clip, const std::string& id,
               const Moving& moving, const glm::dmat4& rootMatrix) {
    auto animation = withId(library, "animation", id);
    animation.append_attribute("name") = xmlText(clip.name).c_str();
    const auto keysId = [&](int node) { return fmt::format("{}-node-{}", id, node); };
    for (const auto& [node, times] : moving)
        writeKeys(animation, model, clip, node, times, rootMatrix, keysId(node));
    for (const auto& [node, times] : moving) {
        auto channel = animation.append_child("channel");
        channel.append_attribute("source") = fmt::format("#{}-sampler", keysId(node)).c_str();
        channel.append_attribute("target") = fmt::format("node-{}/matrix", node).c_str();
    }
}

} // namespace

bool hangsOnBones(const Model& model, const Node& node) {
    if (node.mesh < 0 || node.skin < 0 || model.skins[node.skin].joints.empty()) return false;
    const Mesh& mesh = *model.meshes[node.mesh];
    return !mesh.joints.empty() && !mesh.weights.empty();
}

std::string skinId(std::size_t node) {
    return fmt::format("skin-{}", node);
}

void writeSkins(pugi::xml_node root, const Model& model) {
    pugi::xml_node library;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (!hangsOnBones(model, model.nodes[n])) continue;
        if (!library) library = root.append_child("library_controllers");
        writeSkin(library, model, n);
    }
}

void writeClips(pugi::xml_node root, const Model& model, const glm::dmat4& rootMatrix) {
    pugi::xml_node animations, clips;
    for (std::size_t c = 0; c < model.clips.size(); ++c) {
        const Clip& clip = *model.clips[c];
        double end = 0;
        Moving moving;
        for (const Channel& channel : clip.channels) {
            if (channel.node < 0) continue;
            if (!moving.contains(channel.node)) {
                auto times = motion::poseTimes(clip, channel.node);
                if (times.empty()) continue;
                moving.emplace(channel.node, std::move(times));
            }
            for (const float time : channel.times) end = std::max(end, double(time));
        }
        if (moving.empty()) continue;
        if (!animations) {
            animations = root.append_child("library_animations");
            clips = root.append_child("library_animation_clips");
        }
        const std::string id = fmt::format("clip-{}-keys", c);
        writeClip(animations, model, clip, id, moving, rootMatrix);
        auto target = withId(clips, "animation_clip", fmt::format("clip-{}", c));
        target.append_attribute("name") = xmlText(clip.name).c_str();
        target.append_attribute("start") = "0";
        target.append_attribute("end") = fmt::format("{}", end).c_str();
        target.append_child("instance_animation").append_attribute("url") = ("#" + id).c_str();
    }
}

std::vector<std::string> droppedMotion(const Model& model) {
    std::vector<std::string> dropped;
    if (std::ranges::any_of(model.meshes, [](const auto& mesh) { return !mesh->morphs.empty(); }))
        dropped.emplace_back("morph targets");
    std::set<std::string> bones;
    bool twice = false;
    for (const Skin& skin : model.skins)
        for (const int joint : std::set<int>(skin.joints.begin(), skin.joints.end()))
            twice |= !bones.insert(model.nodes[joint].name).second;
    if (twice) dropped.emplace_back("names of bones that several have (they get a number)");
    const auto weighs = [](const Channel& channel) { return channel.target == Channel::Target::Weights; };
    if (std::ranges::any_of(model.clips,
                            [&](const auto& clip) { return std::ranges::any_of(clip->channels, weighs); }))
        dropped.emplace_back("keys of morph weights");
    return dropped;
}

} // namespace zl::formats::collada
