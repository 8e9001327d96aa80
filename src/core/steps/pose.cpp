#include "core/steps/pose.h"

#include "core/motion/attached.h"
#include "core/motion/bone_turns.h"
#include "core/steps/clip_meant.h"

#include <algorithm>

namespace zl::steps {

namespace {

/// Where a row wants its bone: the plane between left and right is across X.
glm::dquat wantedBy(const Pose::BoneTurn& turn, bool mirrored) {
    const double over = mirrored ? -1 : 1;
    return motion::turnOf(turn.x, over * turn.y, over * turn.z);
}

} // namespace

int Pose::jointOf(const Model& in, const fields::BoneRef& bone) const {
    return motion::jointNamed(in, mirrored ? motion::otherSide(bone.name) : bone.name);
}

motion::BoneTurns Pose::turnedByNumbers(const Model& in) const {
    motion::BoneTurns turned;
    for (const BoneTurn& turn : turns) {
        const int joint = turn.bone.name.empty() ? -1 : jointOf(in, turn.bone);
        if (joint < 0) continue;
        const auto& limits = in.nodes[std::size_t(joint)].turns;
        const glm::dquat wanted = wantedBy(turn, mirrored);
        turned[joint] = limits ? motion::held(wanted, *limits) : wanted;
    }
    return turned;
}

Model Pose::apply(const Model& in, StepContext& context) const {
    if (in.skins.empty()) {
        context.fellShort("there are no bones to pose");
        return in;
    }
    const auto jointAsked = [&](const fields::BoneRef& bone) {
        const int joint = jointOf(in, bone);
        if (joint < 0) context.fellShort(fmt::format("there is no bone \"{}\"", bone.name));
        return joint;
    };
    motion::BoneTurns turned = turnedByNumbers(in);
    for (const BoneTurn& turn : turns) {
        const int joint = turn.bone.name.empty() ? -1 : jointAsked(turn.bone);
        if (joint >= 0 && std::abs(glm::dot(wantedBy(turn, mirrored), turned[joint])) < 1 - 1e-9)
            context.fellShort(fmt::format("\"{}\" does not turn so far and stays at its limit",
                                          in.nodes[std::size_t(joint)].name));
    }
    for (const Reach& reach : reaches) {
        if (reach.end.name.empty()) continue;
        const int end = jointAsked(reach.end);
        if (end < 0) continue;
        const glm::dvec3 side(mirrored ? -1 : 1, 1, 1);
        const glm::dvec3 rest(worldMatrices(in)[std::size_t(end)][3]);
        const auto done =
            motion::reached(in, std::move(turned), end, reach.to * side, rest + reach.bend * side);
        turned = done.turns;
        if (done.shortBy > 0.001)
            context.fellShort(fmt::format("\"{}\" stays {} short of its place",
                                          in.nodes[std::size_t(end)].name, context.showLength(done.shortBy)));
    }
    Model out = in;
    auto posed = std::make_shared<const Clip>(motion::poseClip(in, turned, called));
    if (const int same = clipNamed(out, called); same >= 0)
        out.clips[std::size_t(same)] = std::move(posed);
    else
        out.clips.push_back(std::move(posed));
    context.note(fmt::format("\"{}\" turns {}", called, showCount(long(turned.size()), "bone", "bones")));
    return out;
}

} // namespace zl::steps
