#include "core/steps/levels_of_detail.h"

#include "core/geometry/clean.h"
#include "core/geometry/deviation.h"
#include "core/geometry/clip_keys.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"
#include "core/geometry/levels.h"
#include "core/steps/reduce_triangles.h"

#include <algorithm>
#include <map>

namespace zl::steps {

namespace {

/// With corners joined that are alike: only such can be reduced.
Model joined(Model model, const Progress& progress) {
    for (std::size_t i = 0; i < model.meshes.size(); ++i) {
        progress.report(double(i) / double(model.meshes.size()), "joining corners");
        model.meshes[i] = std::make_shared<const Mesh>(geometry::weld(*model.meshes[i], 0).mesh);
    }
    return model;
}

/// How far a coarser copy is off at most, in metres.
double deviationOf(const Model& whole, const Model& coarse, const Progress& progress) {
    return geometry::deviationBetween(geometry::flattened(whole), geometry::flattened(coarse), 60000,
                                      progress)
        .largest;
}

} // namespace

Model LevelsOfDetail::apply(const Model& in, StepContext& context) const {
    if (levels.empty()) {
        context.note("there are no levels yet: add one");
        return in;
    }
    if (int(levels.size()) >= mostLevels)
        throw Error(fmt::format("{} levels are too many", levels.size()), {},
                    fmt::format("Take fewer than {}.", mostLevels));
    const platform::SheetLevels called =
        named.empty() && context.sheet ? context.sheet->levels : platform::SheetLevels{named};
    Model out = geometry::withoutLevels(in);
    const std::size_t count = out.nodes.size();
    const Model whole = joined(out, context.progress.between(0, 0.1));
    std::size_t before = triangleCount(out);
    auto facts = nlohmann::json::array();
    std::map<int, std::vector<int>> copies; // of each part
    for (std::size_t i = 0; i < levels.size(); ++i) {
        const Progress own = context.progress.between(0.1 + 0.9 * double(i) / double(levels.size()),
                                                      0.1 + 0.9 * double(i + 1) / double(levels.size()));
        ReduceTriangles reduce{.goal = levels[i].by == Level::By::Share ? ReduceTriangles::Goal::Share
                                                                        : ReduceTriangles::Goal::Deviation,
                               .share = levels[i].share,
                               .deviation = levels[i].deviation,
                               .holdBorders = holdBorders};
        const Progress reducing = own.between(0, 0.7);
        StepContext inner{reducing, context.sheet};
        const Model coarse = reduce.apply(whole, inner);
        const std::size_t now = triangleCount(coarse);
        if (now == 0 || now >= before) {
            context.fellShort(fmt::format(
                "a level of {} triangles is no coarser than the one before, and is left out{}{}",
                showNumber(double(now), 0), inner.shortfall.empty() ? "" : ": it ", inner.shortfall));
            continue;
        }
        const double off = deviationOf(whole, coarse, own.between(0.7, 1));
        const int level = int(facts.size()) + 1;
        std::map<int, int> meshes; // of the coarse model
        for (std::size_t n = 0; n < count; ++n) {
            const int mesh = coarse.nodes[n].mesh;
            if (mesh < 0 || coarse.meshes[std::size_t(mesh)]->triangleCount() == 0) continue;
            const auto [entry, fresh] = meshes.try_emplace(mesh, int(out.meshes.size()));
            if (fresh) out.meshes.push_back(coarse.meshes[std::size_t(mesh)]);
            Node node{.name = called.nameFor(out.nodes[n].name, level), .parent = int(n)};
            node.mesh = entry->second, node.skin = out.nodes[n].skin, node.level = level;
            copies[int(n)].push_back(int(out.nodes.size()));
            out.nodes.push_back(std::move(node));
        }
        context.note(fmt::format("level {}: {} triangles, off by {} at most", level,
                                 showNumber(double(now), 0), context.showLength(off)));
        if (!inner.shortfall.empty()) context.fellShort(fmt::format("level {} {}", level, inner.shortfall));
        before = now;
        facts.push_back({{"level", level}, {"triangles", now}, {"deviation", off}});
    }
    context.facts["levels"] = std::move(facts);
    // They move along as they hang below their parts; morphs are each mesh's own.
    geometry::playAlike(out, copies,
                        [](const Channel& channel) { return channel.target == Channel::Target::Weights; });
    return out;
}

} // namespace zl::steps
