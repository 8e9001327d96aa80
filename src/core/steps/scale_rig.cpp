#include "core/steps/scale_rig.h"

#include "core/base/words.h"
#include "core/motion/scaled_rig.h"

namespace zl::steps {

Model ScaleRig::apply(const Model& in, StepContext& context) const {
    const auto scaled = motion::scaledRigNodes(in);
    const double whole = motion::scaleOfWhole(in);
    context.facts = {{"nodes", scaled.size()}, {"whole", whole}};
    if (scaled.empty() && whole == 1) {
        context.note(motion::hasRig(in) ? "all of the rig is at scale 1, and the whole"
                                        : "there are no bones, and nothing that clips move");
        return in;
    }
    Model out = motion::withRigScaleBaked(in);
    std::vector<std::string> names;
    if (whole != 1) names.push_back(fmt::format("the whole ({})", showMeasure(whole)));
    for (const int node : scaled) {
        const glm::dmat4& local = in.nodes[std::size_t(node)].local;
        names.push_back(fmt::format("{} ({})", in.nodes[std::size_t(node)].name,
                                    showMeasure(glm::length(glm::dvec3(local[0])))));
    }
    context.note(fmt::format("to scale 1: {}", showNames(names)));
    return out;
}

} // namespace zl::steps
