#include "core/avatar/face.h"

#include "core/avatar/keys.h"
#include "core/avatar/roles.h"
#include "core/motion/pose.h"

#include <glm/gtc/quaternion.hpp>

#include <algorithm>
#include <cmath>

namespace zl::avatar {

namespace {

double given(const LookAt::Range& range, double degrees) {
    return range.most > 0 ? std::min(degrees / range.most, 1.0) * range.gives : 0;
}

Expression::Override overrideOf(const Expression& e, StandardExpression::For use) {
    using enum StandardExpression::For;
    return use == Blinking  ? e.blink
           : use == Looking ? e.lookAt
           : use == Talking ? e.mouth
                            : Expression::Override::None;
}

/// An eye's turn: to the avatar's left and up, held in by its own ranges.
glm::dquat eyeTurn(const LookAt& how, const glm::dvec2& look, bool leftEye) {
    const double aside = std::abs(look.x);
    // Outward is to the left for the left eye.
    const bool outward = (look.x > 0) == leftEye;
    const double yaw = std::copysign(given(outward ? how.outward : how.inward, aside), look.x),
                 pitch = look.y >= 0 ? given(how.up, look.y) : -given(how.down, -look.y);
    // A figure faces +Z, its left is +X: left is a positive turn about Y, up a negative one about X.
    return glm::angleAxis(glm::radians(yaw), glm::dvec3(0, 1, 0)) *
           glm::angleAxis(glm::radians(-pitch), glm::dvec3(1, 0, 0));
}

} // namespace

std::map<std::string, double> shownExpressions(const Model& model, const Face& face) {
    std::map<std::string, double> out;
    if (!model.avatar) return out;
    const Avatar& avatar = *model.avatar;
    auto wanted = face.expressions;
    if (avatar.lookAt && avatar.lookAt->by == LookAt::By::Expressions) {
        const LookAt& how = *avatar.lookAt;
        wanted[face.look.x > 0 ? "lookLeft" : "lookRight"] += given(how.outward, std::abs(face.look.x));
        wanted[face.look.y > 0 ? "lookUp" : "lookDown"] +=
            given(face.look.y > 0 ? how.up : how.down, std::abs(face.look.y));
    }
    for (const Expression& e : avatar.expressions) {
        const auto found = wanted.find(e.name);
        double much = found == wanted.end() ? 0 : std::clamp(found->second, 0.0, 1.0);
        if (e.binary) much = much > 0.5 ? 1 : 0;
        out[e.name] = much;
    }
    auto rest = out;
    for (const Expression& e : avatar.expressions) {
        const StandardExpression* standard = e.custom ? nullptr : standardExpressionNamed(e.name);
        if (!standard) continue;
        double share = 1;
        for (const Expression& over : avatar.expressions) {
            if (&over == &e || out[over.name] <= 0) continue;
            const auto how = overrideOf(over, standard->use);
            if (how == Expression::Override::Block) share = 0;
            if (how == Expression::Override::Blend) share -= out[over.name];
        }
        rest[e.name] = out[e.name] * std::max(0.0, share);
    }
    return rest;
}

Clip clipOf(const Model& model, const Face& face) {
    Clip out{"face", {}};
    if (!model.avatar) return out;
    const Avatar& avatar = *model.avatar;
    std::map<int, std::vector<float>> weights;
    for (const auto& [name, much] : shownExpressions(model, face))
        for (const Expression::Morph& bind : avatar.expression(name)->morphs)
            for (const auto& [node, morph] : targetsOf(model, bind)) {
                auto& own = weights[node];
                own.resize(model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)]->morphs.size());
                own[std::size_t(morph)] =
                    float(std::clamp(double(own[std::size_t(morph)]) + much * bind.weight, 0.0, 1.0));
            }
    for (const auto& [node, own] : weights)
        out.channels.push_back({node, Channel::Target::Weights, Channel::Curve::Linear, {0}, own});
    if (!avatar.lookAt || avatar.lookAt->by != LookAt::By::Bones) return out;
    const auto world = worldMatrices(model);
    for (const bool left : {true, false}) {
        const int eye = boneOf(model, left ? "leftEye" : "rightEye");
        if (eye < 0) continue;
        // The turn is told in the model's own space, whatever way the bone's axes point at rest.
        const glm::dquat rest = glm::normalize(motion::turnIn(world[std::size_t(eye)]));
        const glm::dquat turn = glm::normalize(motion::turnIn(model.nodes[std::size_t(eye)].local)) *
                                glm::inverse(rest) * eyeTurn(*avatar.lookAt, face.look, left) * rest;
        out.channels.push_back({eye,
                                Channel::Target::Rotation,
                                Channel::Curve::Linear,
                                {0},
                                {float(turn.x), float(turn.y), float(turn.z), float(turn.w)}});
    }
    return out;
}

Clip withFace(const Model& model, const Clip& clip, double seconds, const Face& face) {
    Clip out = clipOf(model, face);
    const auto own = out.channels;
    for (const Channel& channel : clip.channels) {
        const bool taken = std::ranges::any_of(own, [&](const Channel& face_) {
            return face_.node == channel.node && face_.target == channel.target;
        });
        if (taken) continue;
        Channel now{channel.node, channel.target, Channel::Curve::Linear, {0}, {}};
        for (const double value : motion::valueAt(channel, seconds)) now.values.push_back(float(value));
        if (!now.values.empty()) out.channels.push_back(std::move(now));
    }
    return out;
}

} // namespace zl::avatar
