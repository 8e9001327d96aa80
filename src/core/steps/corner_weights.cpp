#include "core/steps/corner_weights.h"

#include "core/base/pattern.h"
#include "core/geometry/corner_weights.h"
#include "core/geometry/world.h"
#include "core/motion/apart.h"

namespace zl::steps {

Model CornerWeights::apply(const Model& in, StepContext& context) const {
    Model out = in;
    const NamePatterns wanted(of.patterns);
    std::size_t changed = 0, skinned = 0;
    double lost = 0;
    std::vector<char> done(in.meshes.size(), 0);
    for (const Node& node : in.nodes) {
        if (node.mesh < 0 || node.skin < 0 || !wanted.match(node.name)) continue;
        const auto mesh = std::size_t(node.mesh);
        if (std::exchange(done[mesh], 1) || in.meshes[mesh]->weights.empty()) continue;
        context.progress.checkCancel();
        auto limited = geometry::withFewWeights(*in.meshes[mesh], {most, least});
        skinned += in.meshes[mesh]->vertexCount();
        changed += limited.changed, lost = std::max(lost, limited.mostLost);
        if (limited.changed > 0) out.meshes[mesh] = std::make_shared<const Mesh>(std::move(limited.mesh));
    }
    context.facts = {{"corners", skinned}, {"changed", changed}};
    if (skinned == 0) {
        context.note("nothing hangs on bones");
    } else if (changed == 0) {
        context.note(fmt::format("no corner hangs on more than {}", showCount(most, "bone", "bones")));
    } else {
        const double off = motion::farthestApart(in, out, context.progress);
        context.facts["metres"] = off;
        context.note(fmt::format("{} of {} corners: bones let go of {} of one at most; off by at most {}, "
                                 "at rest and in all clips",
                                 showNumber(double(changed), 0), showNumber(double(skinned), 0),
                                 showNumber(100 * lost, 1) + " %", context.showLength(off < 1e-5 ? 0 : off)));
    }
    return out;
}

} // namespace zl::steps
