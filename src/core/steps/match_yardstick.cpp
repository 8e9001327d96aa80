#include "core/steps/match_yardstick.h"

#include "core/base/pattern.h"
#include "core/geometry/clean.h"
#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

namespace {

struct Measured {
    geometry::Bounds bounds;
    double volume = 0; ///< of all parts together, cubic metres
    std::size_t parts = 0;
};

Measured measured(const Model& model, const PartNames& parts) {
    Measured result;
    const NamePatterns wanted(parts.patterns);
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        if (!wanted.match(model.nodes[node].name)) return;
        ++result.parts;
        result.bounds.add(geometry::meshBounds(mesh, toWorld));
        const auto middle = geometry::meshBounds(mesh).centre();
        result.volume +=
            std::abs(geometry::signedVolume(mesh, middle) * glm::determinant(glm::dmat3(toWorld)));
    });
    return result;
}

} // namespace

Model MatchYardstick::apply(const Model& in, StepContext& context) const {
    const std::string where(info.id);
    const Companion known = context.input(yardstick);
    const Measured own = measured(in, part), other = measured(*known.model, yardstickPart);
    const auto demand = [&](const Measured& m, const PartNames& names, const std::string& of) {
        if (m.parts == 0)
            throw Error(fmt::format("{} has no part like \"{}\"", of, patternsText(names.patterns)), where,
                        "Look at the names on Gather.");
    };
    demand(own, part, "the model");
    demand(other, yardstickPart, "the yardstick");
    const auto value = [&](const Measured& m) {
        const auto size = m.bounds.size();
        return by == By::Height   ? size.y
               : by == By::Width  ? size.x
               : by == By::Length ? size.z
                                  : std::cbrt(m.volume);
    };
    const double now = value(own), wanted = value(other) * ratio;
    const std::string measure(measures[static_cast<int>(by)].label);
    if (!(now > 1e-9) || !(wanted > 1e-9))
        throw Error(fmt::format("{} has no {}", now > 1e-9 ? "the yardstick" : "the model", measure), where,
                    "Match another measure.");
    const double scale = wanted / now;
    const auto show = [&](double v) {
        if (by == By::Volume) return showMeasure(v * v * v) + "\u202fm³";
        return context.sheet ? context.sheet->showBoth(v) : showMeasure(v) + "\u202fm";
    };
    context.note(fmt::format("{} {} → {} as \"{}\", scaled by {}", measure, show(now), show(wanted),
                             known.name, showMeasure(scale)));
    context.facts = {{"before", now}, {"yardstick", value(other)}, {"scale", scale}};
    return moved(in, glm::scale(glm::dmat4(1.0), glm::dvec3(scale)));
}

} // namespace zl::steps
