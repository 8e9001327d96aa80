#include "core/steps/split_parts.h"

#include "core/base/pattern.h"
#include "core/geometry/parts.h"

namespace zl::steps {

namespace {

void noteObjects(StepContext& context, const Model& before, const Model& after) {
    context.note(fmt::format("{} → {}",
                             showCount(static_cast<long long>(objectCount(before)), "object", "objects"),
                             showCount(static_cast<long long>(objectCount(after)), "object", "objects")));
}

} // namespace

Model SplitParts::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(parts.patterns);
    const auto chosen = [&](const Node& node) { return wanted.match(node.name); };
    Model out = by == By::Name ? geometry::liftedOut(in, chosen)
                : by == By::LoosePart
                    ? geometry::splitObjects(in, geometry::SplitBy::LoosePart, chosen, context.progress)
                    : geometry::splitObjects(in, geometry::SplitBy::Material, chosen, context.progress);
    noteObjects(context, in, out);
    return out;
}

Model JoinParts::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(parts.patterns);
    Model out = geometry::joinedObjects(
        in, [&](const Node& node) { return wanted.match(node.name); }, name, &context.notes);
    noteObjects(context, in, out);
    return out;
}

Model RemoveWrappers::apply(const Model& in, StepContext& context) const {
    std::vector<int> removed;
    Model out = geometry::withoutWrappers(in, &removed);
    context.note(
        fmt::format("took out {}", showCount(static_cast<long long>(removed.size()), "node", "nodes")));
    return out;
}

} // namespace zl::steps
