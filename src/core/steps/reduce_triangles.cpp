#include "core/steps/reduce_triangles.h"

#include "core/geometry/deviation.h"
#include "core/geometry/reduce.h"
#include "core/geometry/world.h"

#include <algorithm>

namespace zl::steps {

namespace {

/// How many triangles may stay: in all, and in each mesh; 0 is no bound.
struct TriangleBounds {
    std::size_t total = 0, each = 0;
};

/// The bounds of all rules of the platform that count triangles.
TriangleBounds limitsOf(const platform::Sheet& sheet) {
    TriangleBounds bounds;
    for (const platform::RuleSpec* rule : sheet.rulesOf("triangles")) {
        const auto most = static_cast<std::size_t>(rule->limit("most", 0));
        std::size_t& bound = rule->limit("per-object", 0) != 0 ? bounds.each : bounds.total;
        if (most > 0) bound = bound == 0 ? most : std::min(bound, most);
    }
    return bounds;
}

/// How many triangles each mesh may keep, the total shared out in proportion, a mesh that is shown several times
/// counted as often. Every mesh keeps one triangle at least: 0 would mean no bound to the reduction.
std::vector<std::size_t> shareOut(const Model& model, const TriangleBounds& bounds) {
    std::vector<std::size_t> keep(model.meshes.size()), shown(model.meshes.size(), 0);
    for (const Node& node : model.nodes)
        if (node.mesh >= 0) ++shown[node.mesh];
    const auto share = [&](double ratio) {
        std::size_t sum = 0;
        for (std::size_t i = 0; i < keep.size(); ++i) {
            std::size_t count = model.meshes[i]->triangleCount();
            if (bounds.each > 0) count = std::min(count, bounds.each);
            if (count > 0 && ratio < 1)
                count = std::max<std::size_t>(1, static_cast<std::size_t>(std::floor(double(count) * ratio)));
            keep[i] = count;
            sum += count * shown[i];
        }
        return sum;
    };
    const std::size_t all = share(1);
    if (bounds.total == 0 || all <= bounds.total) return keep;
    // Small meshes that keep one triangle take from the others' share, so the ratio is found by halving.
    double low = 0, high = 1;
    for (int i = 0; i < 40; ++i) {
        const double middle = (low + high) / 2;
        (share(middle) <= bounds.total ? low : high) = middle;
    }
    share(low);
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
    TriangleBounds bounds;
    switch (goal) {
    case Goal::Limit:
        if (context.sheet) bounds = limitsOf(*context.sheet);
        if (bounds.total == 0 && bounds.each == 0) {
            context.note("kept as it is: no platform limit to go by");
            return in;
        }
        break;
    case Goal::Number:
        bounds.total = static_cast<std::size_t>(number);
        break;
    case Goal::Share:
        bounds.total = std::max<std::size_t>(1, static_cast<std::size_t>(double(before) * share));
        break;
    case Goal::Deviation:
        break;
    }
    const Mesh original = geometry::flattened(in);
    const double height = geometry::meshBounds(original).size().y;
    const auto world = worldMatrices(in);
    std::vector<double> scale(in.meshes.size(), 0); // mesh units to metres, of the last node that shows it
    for (std::size_t n = 0; n < in.nodes.size(); ++n)
        if (in.nodes[n].mesh >= 0)
            scale[in.nodes[n].mesh] = std::cbrt(std::abs(glm::determinant(glm::dmat3(world[n]))));

    const auto attempt = [&](double bound, const Progress& progress) {
        Attempt result{in, {}};
        const auto keep = goal == Goal::Deviation ? std::vector<std::size_t>(in.meshes.size(), 0)
                                                  : shareOut(in, bounds);
        for (std::size_t i = 0; i < in.meshes.size(); ++i) {
            geometry::ReduceGoal wanted{keep[i], 0, holdBorders};
            if (goal == Goal::Deviation) wanted.largestDeviation = scale[i] > 0 ? bound / scale[i] : bound;
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
    if (bounds.total > 0 && after > bounds.total)
        context.note(objectCount(in) > bounds.total
                         ? fmt::format("could not reach {}: there are {}, and each keeps a triangle at least",
                                       showNumber(double(bounds.total), 0),
                                       showCount(static_cast<long long>(objectCount(in)), "object", "objects"))
                         : fmt::format("could not reach {}: seams, borders or corners that are not joined hold "
                                       "the rest",
                                       showNumber(double(bounds.total), 0)));
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
