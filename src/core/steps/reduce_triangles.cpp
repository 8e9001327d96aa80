#include "core/steps/reduce_triangles.h"

#include "core/geometry/deviation.h"
#include "core/geometry/reduce.h"
#include "core/geometry/world.h"

#include <algorithm>

namespace zl::steps {

namespace {

/// How many triangles each mesh may keep so that the whole keeps at most `total` (0: no bound), shared out in
/// proportion, counting a mesh that is shown several times as often as it is shown.
std::vector<std::size_t> shareOut(const Model& model, std::size_t total, bool perObject) {
    std::vector<std::size_t> keep(model.meshes.size());
    const double ratio =
        perObject ? 1.0
                  : std::min(1.0, double(total) / double(std::max<std::size_t>(1, triangleCount(model))));
    for (std::size_t i = 0; i < keep.size(); ++i) {
        const std::size_t count = model.meshes[i]->triangleCount();
        keep[i] =
            perObject ? std::min(count, total) : static_cast<std::size_t>(std::floor(double(count) * ratio));
    }
    return keep;
}

struct Attempt {
    Model model;
    geometry::Deviation deviation;
};

} // namespace

Model ReduceTriangles::apply(const Model& in, StepContext& context) const {
    const std::size_t before = triangleCount(in);
    if (before == 0) {
        context.note("there are no triangles to reduce");
        return in;
    }
    std::size_t total = 0;
    bool perObject = false;
    switch (goal) {
    case Goal::Limit: {
        const platform::RuleSpec* rule = context.sheet ? context.sheet->rule("triangles") : nullptr;
        if (!rule) {
            context.note("kept as it is: no platform limit to go by");
            return in;
        }
        total = static_cast<std::size_t>(rule->limit("most", 0));
        perObject = rule->limit("per-object", 0) != 0;
        break;
    }
    case Goal::Number:
        total = static_cast<std::size_t>(number);
        break;
    case Goal::Share:
        total = std::max<std::size_t>(1, static_cast<std::size_t>(double(before) * share));
        break;
    case Goal::Deviation:
        break;
    }
    const Mesh original = geometry::flattened(in);
    const double height = geometry::meshBounds(original).size().y;
    const auto world = worldMatrices(in);

    const auto attempt = [&](double bound, const Progress& progress) {
        Attempt result{in, {}};
        const auto keep = goal == Goal::Deviation ? std::vector<std::size_t>(in.meshes.size(), 0)
                                                  : shareOut(in, total, perObject);
        for (std::size_t i = 0; i < in.meshes.size(); ++i) {
            geometry::ReduceGoal wanted{keep[i], 0, holdBorders};
            if (goal == Goal::Deviation) {
                double scale = 1;
                for (std::size_t n = 0; n < in.nodes.size(); ++n)
                    if (in.nodes[n].mesh == static_cast<int>(i))
                        scale = std::cbrt(std::abs(glm::determinant(glm::dmat3(world[n]))));
                wanted.largestDeviation = scale > 0 ? bound / scale : bound;
            }
            result.model.meshes[i] = std::make_shared<const Mesh>(geometry::reduce(
                *in.meshes[i], wanted,
                progress.part(0.7 * double(i) / in.meshes.size(), 0.7 * double(i + 1) / in.meshes.size(),
                              "reducing triangles")));
        }
        result.deviation = geometry::deviationBetween(original, geometry::flattened(result.model),
                                                      geometry::deviationSamples, progress.part(0.7, 1));
        return result;
    };

    Attempt best = attempt(deviation, context.progress);
    if (goal == Goal::Deviation) {
        // The method bounds an average of squared distances; tighten until the measured largest one keeps the
        // promise.
        double bound = deviation;
        for (int round = 0; round < 6 && best.deviation.largest > deviation; ++round) {
            bound *= std::clamp(0.9 * deviation / best.deviation.largest, 0.1, 0.8);
            best = attempt(bound, context.progress);
        }
        if (best.deviation.largest > deviation) {
            context.note("kept as it is: nothing can go within that deviation");
            return in;
        }
    }
    const std::size_t after = triangleCount(best.model);
    context.note(
        fmt::format("{} → {} triangles", showNumber(double(before), 0), showNumber(double(after), 0)));
    if (height > 0)
        context.note(fmt::format("deviates by at most {} %, on average {} % of the height",
                                 showMeasure(100 * best.deviation.largest / height),
                                 showMeasure(100 * best.deviation.mean / height)));
    if (goal != Goal::Deviation && !perObject && after > total)
        context.note(
            fmt::format("could not reach {}: seams, borders or corners that are not joined hold the rest",
                        showNumber(double(total), 0)));
    context.facts = {{"before", before},
                     {"after", after},
                     {"largestDeviationMetres", best.deviation.largest},
                     {"meanDeviationMetres", best.deviation.mean},
                     {"largestDeviationShare", height > 0 ? best.deviation.largest / height : 0},
                     {"meanDeviationShare", height > 0 ? best.deviation.mean / height : 0},
                     {"samples", best.deviation.samples}};
    return best.model;
}

} // namespace zl::steps
