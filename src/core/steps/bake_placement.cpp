#include "core/steps/bake_placement.h"

#include "core/base/pattern.h"

namespace zl::steps {

Model BakePlacement::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(parts.patterns);
    auto result = geometry::baked(
        in, [&](const Node& node) { return wanted.match(node.name); }, what);
    context.note(
        fmt::format("baked {}", showCount(static_cast<long long>(result.baked.size()), "node", "nodes")));
    if (!result.moving.empty())
        context.fellShort(
            fmt::format("{} a transform of their own, because a clip or a bone moves them",
                        showCount(static_cast<long long>(result.moving.size()), "node keeps", "nodes keep")));
    context.facts = {{"baked", result.baked}, {"moving", result.moving}};
    return std::move(result.model);
}

} // namespace zl::steps
