#include "core/steps/pose.h"

#include "core/motion/attached.h"
#include "core/motion/bone_turns.h"

#include <algorithm>

namespace zl::steps {

Model Pose::apply(const Model& in, StepContext& context) const {
    if (in.skins.empty()) {
        context.fellShort("there are no bones to pose");
        return in;
    }
    motion::BoneTurns turned;
    const auto jointOf = [&](const std::string& name) {
        const int joint = motion::jointNamed(in, mirrored ? motion::otherSide(name) : name);
        if (joint < 0) context.fellShort(fmt::format("there is no bone \"{}\"", name));
        return joint;
    };
    for (const BoneTurn& turn : turns) {
        if (turn.bone.name.empty()) continue;
        const int joint = jointOf(turn.bone.name);
        if (joint < 0) continue;
        const double over = mirrored ? -1 : 1; // the plane between left and right is across X
        const glm::dquat wanted = motion::turnOf(turn.x, over * turn.y, over * turn.z);
        const Node& bone = in.nodes[std::size_t(joint)];
        turned[joint] = bone.turns ? motion::held(wanted, *bone.turns) : wanted;
        if (std::abs(glm::dot(wanted, turned[joint])) < 1 - 1e-9)
            context.fellShort(fmt::format("\"{}\" does not turn so far and stays at its limit", bone.name));
    }
    for (const Reach& reach : reaches) {
        if (reach.end.name.empty()) continue;
        const int end = jointOf(reach.end.name);
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
    std::erase_if(out.clips, [&](const auto& clip) { return clip->name == called; });
    out.clips.push_back(std::make_shared<const Clip>(motion::poseClip(in, turned, called)));
    context.note(fmt::format("\"{}\" turns {}", called, showCount(long(turned.size()), "bone", "bones")));
    return out;
}

} // namespace zl::steps
