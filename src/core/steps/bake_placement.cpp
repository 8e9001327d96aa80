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
        context.fellShort(showCount(static_cast<long long>(result.moving.size()),
                                    "node keeps a transform of its own, because a clip or a bone moves it",
                                    "nodes keep a transform of their own, because clips or bones move them"));
    context.facts = {{"baked", result.baked}, {"moving", result.moving}};
    return std::move(result.model);
}

} // namespace zl::steps
