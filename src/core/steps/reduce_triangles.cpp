#include "core/steps/reduce_triangles.h"

#include "core/base/words.h"
#include "core/geometry/deviation.h"
#include "core/geometry/reduce.h"
#include "core/geometry/world.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::steps {

namespace {

/// How many triangles may stay: in all, in each mesh, and wearing one material; 0 is no bound.
struct TriangleBounds {
    std::size_t total = 0, each = 0, material = 0;

    bool none() const { return total == 0 && each == 0 && material == 0; }
};

/// The bounds of all rules of the platform that count triangles.
TriangleBounds limitsOf(const platform::Sheet& sheet) {
    TriangleBounds bounds;
    for (const platform::RuleSpec* rule : sheet.rulesOf("triangles")) {
        const auto most = static_cast<std::size_t>(rule->limit("most", 0));
        std::size_t& bound = rule->limit("per-object", 0) != 0     ? bounds.each
                             : rule->limit("per-material", 0) != 0 ? bounds.material
                                                                   : bounds.total;
        if (most > 0) bound = bound == 0 ? most : std::min(bound, most);
    }
    return bounds;
}

/// What share of its triangles each material may keep, by material.
using MaterialShares = std::map<int, double>;

/// Lowers the shares of materials that more than `most` triangles of `model` wear; false when none is.
bool tighten(MaterialShares& shares, const Model& model, std::size_t most) {
    bool some = false;
    for (const auto& [material, count] : trianglesByMaterial(model)) {
        if (most == 0 || count <= most) continue;
        double& share = shares.try_emplace(material, 1.0).first->second;
        share *= double(most) / double(count);
        some = true;
    }
    return some;
}

/// The share that a mesh may keep for all its materials' sake.
double leastShare(const Mesh& mesh, const MaterialShares& shares) {
    double least = 1;
    for (const MaterialRun& run : mesh.runs)
        if (const auto found = shares.find(run.material); found != shares.end() && run.triangleCount > 0)
            least = std::min(least, found->second);
    return least;
}

/// How many triangles each mesh may keep, the total shared out in proportion, a mesh that is shown several
/// times counted as often. Every mesh keeps as many as `least` says, and one triangle at least: 0 would mean
/// no bound to the reduction.
std::vector<std::size_t> shareOut(const Model& model, const TriangleBounds& bounds,
                                  const MaterialShares& materials, const std::vector<std::size_t>& least) {
    std::vector<std::size_t> keep(model.meshes.size()), shown(model.meshes.size(), 0);
    for (const Node& node : model.nodes)
        if (node.mesh >= 0) ++shown[node.mesh];
    const auto share = [&](double ratio) {
        std::size_t sum = 0;
        for (std::size_t i = 0; i < keep.size(); ++i) {
            const std::size_t whole = model.meshes[i]->triangleCount();
            std::size_t count = whole;
            if (bounds.each > 0) count = std::min(count, bounds.each);
            if (const double most = leastShare(*model.meshes[i], materials); most < 1 && whole > 0)
                count = std::min(count, std::max<std::size_t>(1, std::size_t(double(whole) * most)));
            if (count > 0 && ratio < 1)
                count = std::max({std::size_t(1), least[i], static_cast<std::size_t>(double(count) * ratio)});
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

/// The deviation of each changed mesh, as the node shows it that shows it largest: the largest of all, and
/// the mean over all points that were looked at. What is gone altogether deviates by its own size.
geometry::Deviation deviationOf(const Model& before, const Model& after, const Progress& progress) {
    std::vector<double> scale(before.meshes.size(), -1);
    std::vector<std::size_t> shownBy(before.meshes.size(), 0);
    const auto world = worldMatrices(before);
    for (std::size_t n = 0; n < before.nodes.size(); ++n) {
        const int mesh = before.nodes[n].mesh;
        const double own = std::abs(glm::determinant(glm::dmat3(world[n])));
        if (mesh >= 0 && own > scale[mesh]) scale[mesh] = own, shownBy[mesh] = n;
    }
    const double all = double(std::max<std::size_t>(1, triangleCount(before)));
    geometry::Deviation sum;
    for (std::size_t i = 0; i < before.meshes.size(); ++i) {
        const Mesh &was = *before.meshes[i], &is = *after.meshes[i];
        if (scale[i] < 0 || was.indices.empty() || was.triangleCount() == is.triangleCount()) continue;
        const Mesh placed = geometry::transformed(was, world[shownBy[i]]);
        const double size = glm::length(geometry::meshBounds(placed).size());
        if (!(size > 0)) continue; // flattened to a point
        geometry::Deviation own;
        own.largest = size;
        if (!is.indices.empty())
            own = geometry::deviationBetween(
                placed, geometry::transformed(is, world[shownBy[i]]),
                std::max<std::size_t>(1000, std::size_t(double(geometry::deviationSamples) *
                                                        double(was.triangleCount()) / all)),
                progress.between(double(i) / double(before.meshes.size()),
                                 double(i + 1) / double(before.meshes.size())));
        const auto both = double(sum.samples + own.samples);
        if (both > 0) sum.mean = (sum.mean * double(sum.samples) + own.mean * double(own.samples)) / both;
        sum.largest = std::max(sum.largest, own.largest);
        sum.samples += own.samples;
    }
    return sum;
}

struct Attempt {
    Model model;
    geometry::Deviation deviation;
};

/// The model reduced to the bounds. What a mesh cannot give up, for borders or seams that hold it, the others
/// give up in its place.
Model reducedTo(const TriangleBounds& bounds, const Model& in, bool holdBorders, const Progress& progress) {
    Model out = in;
    std::vector<std::size_t> least(in.meshes.size(), 0), kept(in.meshes.size(), 0);
    MaterialShares materials;
    tighten(materials, in, bounds.material);
    constexpr int rounds = 4;
    for (int round = 0; round < rounds; ++round) {
        const auto keep = shareOut(in, bounds, materials, least);
        // The first round is nearly always the only one, and most of the way.
        const double left = std::pow(0.15, round);
        const Progress own = progress.between(1 - left, 1 - 0.15 * left);
        bool stuck = false;
        for (std::size_t i = 0; i < in.meshes.size(); ++i) {
            if (round > 0 && keep[i] == kept[i]) continue;
            out.meshes[i] = std::make_shared<const Mesh>(geometry::reduce(
                *in.meshes[i], {keep[i], 0, holdBorders},
                own.between(double(i) / double(in.meshes.size()), double(i + 1) / double(in.meshes.size()),
                            "reducing triangles")));
            kept[i] = keep[i];
            const std::size_t count = out.meshes[i]->triangleCount();
            if (count > keep[i]) least[i] = count, stuck = true;
        }
        const bool tooMany = stuck && bounds.total > 0 && triangleCount(out) > bounds.total;
        if (!tighten(materials, out, bounds.material) && !tooMany) break;
    }
    return out;
}

Model reducedWithin(double deviation, const Model& in, bool holdBorders, const Progress& progress) {
    Model out = in;
    const auto world = worldMatrices(in);
    std::vector<double> scale(in.meshes.size(), 0); // mesh units to metres, of the last node that shows it
    for (std::size_t n = 0; n < in.nodes.size(); ++n)
        if (in.nodes[n].mesh >= 0)
            scale[in.nodes[n].mesh] = std::cbrt(std::abs(glm::determinant(glm::dmat3(world[n]))));
    for (std::size_t i = 0; i < in.meshes.size(); ++i)
        out.meshes[i] = std::make_shared<const Mesh>(geometry::reduce(
            *in.meshes[i], {0, scale[i] > 0 ? deviation / scale[i] : deviation, holdBorders},
            progress.between(double(i) / double(in.meshes.size()), double(i + 1) / double(in.meshes.size()),
                             "reducing triangles")));
    return out;
}

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
        if (bounds.none()) {
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
    const double height = geometry::worldBounds(in).size().y;
    const auto attempt = [&](double bound, const Progress& progress) {
        const Progress own = progress.between(0, 0.7);
        Attempt result{goal == Goal::Deviation ? reducedWithin(bound, in, holdBorders, own)
                                               : reducedTo(bounds, in, holdBorders, own),
                       {}};
        result.deviation = deviationOf(in, result.model, progress.between(0.7, 1));
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
    std::vector<std::string> gone;
    for (const Node& node : in.nodes)
        if (node.mesh >= 0 && !in.meshes[node.mesh]->indices.empty() &&
            best.model.meshes[node.mesh]->indices.empty())
            gone.push_back(node.name);
    std::vector<std::string> bare;
    const auto worn = usedMaterials(best.model);
    for (const int m : usedMaterials(in))
        if (m >= 0 && !std::ranges::binary_search(worn, m)) bare.push_back(in.materials[m].name);
    if (!bare.empty())
        context.note(
            fmt::format("no face is left that wears the material {}, or its picture", showNames(bare)));
    if (!gone.empty())
        context.note(fmt::format("nothing is left of {}: it is smaller than what may go", showNames(gone)));
    context.note(
        fmt::format("{} → {} triangles", showNumber(double(before), 0), showNumber(double(after), 0)));
    if (height > 0)
        context.note(fmt::format("deviates by at most {} %, on average {} % of the height",
                                 showMeasure(100 * best.deviation.largest / height),
                                 showMeasure(100 * best.deviation.mean / height)));
    if (bounds.total > 0 && after > bounds.total)
        context.fellShort(
            objectCount(in) > bounds.total
                ? fmt::format("could not reach {}: there are {}, and each keeps a triangle at least",
                              showNumber(double(bounds.total), 0),
                              showCount(static_cast<long long>(objectCount(in)), "object", "objects"))
                : fmt::format("could not reach {}: seams, borders or corners that are not joined hold "
                              "the rest",
                              showNumber(double(bounds.total), 0)));
    if (MaterialShares still; tighten(still, best.model, bounds.material))
        context.fellShort(fmt::format("could not reach {} a material: seams, borders or corners that are not "
                                      "joined hold the rest",
                                      showNumber(double(bounds.material), 0)));
    for (const auto& mesh : best.model.meshes)
        if (bounds.each > 0 && mesh->triangleCount() > bounds.each) {
            context.fellShort(fmt::format("could not reach {} an object: seams, borders or corners that are "
                                          "not joined hold the rest",
                                          showNumber(double(bounds.each), 0)));
            break;
        }
    context.lost = best.deviation.largest;
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
