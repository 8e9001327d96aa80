// Wheels that are steered and sprung: whether they touch the body on the way.
#include "core/platform/rules/all_rules.h"

#include "core/base/pattern.h"
#include "core/geometry/clipping.h"
#include "core/geometry/part_places.h"
#include "core/geometry/wheel_places.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace zl::platform {

namespace {

using geometry::Body;

/// How a wheel stands: turned to the left by an angle in radians, and sprung up by a length in metres.
struct Stance {
    double turned = 0, sprung = 0;
};

/// Straight and at both ends of the steering, each level and at both ends of the travel.
std::vector<Stance> stancesOf(double steering, double travel) {
    std::vector<Stance> out;
    for (const double turned : {0.0, steering, -steering})
        for (const double sprung : {0.0, travel, -travel}) {
            const bool known = std::ranges::any_of(out, [&](const Stance& stance) {
                return stance.turned == turned && stance.sprung == sprung;
            });
            if (!known) out.push_back({turned, sprung});
        }
    return out;
}

std::string shown(const Stance& stance, const Sheet& sheet) {
    std::string out;
    if (stance.turned != 0)
        out = fmt::format("steered {}\u202f° {}",
                          showNumber(std::round(std::abs(stance.turned) * 180 / glm::pi<double>()), 0),
                          stance.turned > 0 ? "left" : "right");
    if (stance.sprung != 0)
        out += fmt::format("{}{} {}", out.empty() ? "" : " and ", sheet.showLength(std::abs(stance.sprung)),
                           stance.sprung > 0 ? "up" : "down");
    return out.empty() ? "straight" : out;
}

/// The nodes whose faces may not be touched: those that `pattern` matches with all below, but for the wheels.
std::vector<char> bodyNodes(const Model& model, const std::string& pattern,
                            const std::vector<geometry::PlacedPart>& wheels) {
    const NamePatterns names(patternsFrom(pattern));
    std::vector<char> is(model.nodes.size(), 0);
    for (std::size_t n = 0; n < is.size(); ++n) {
        const int parent = model.nodes[n].parent;
        is[n] = names.match(model.nodes[n].name) || (parent >= 0 && is[std::size_t(parent)]);
    }
    for (const auto& wheel : wheels) {
        for (const int node : wheel.nodes) is[std::size_t(node)] = 0;
        if (wheel.hub >= 0)
            for (const int node : geometry::withBelow(model, wheel.hub)) is[std::size_t(node)] = 0;
    }
    return is;
}

std::vector<Body> standing(const std::vector<const Body*>& wheel, const glm::dvec3& hub,
                           const Stance& stance) {
    const glm::dmat4 change = glm::translate(glm::dmat4(1.0), hub + glm::dvec3(0, stance.sprung, 0)) *
                              glm::rotate(glm::dmat4(1.0), stance.turned, glm::dvec3(0, 1, 0)) *
                              glm::translate(glm::dmat4(1.0), -hub);
    std::vector<Body> out;
    for (const Body* body : wheel)
        out.emplace_back(body->name(), body->node(), geometry::transformed(body->mesh(), change));
    return out;
}

} // namespace

Finding measureClearance(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const Model& model = m.model();
    const double within = rule.limit("within", 0) * sheet.metresPerUnit,
                 steering = glm::radians(std::clamp(rule.limit("steering", 0), 0.0, 89.0)),
                 travel = rule.limit("travel", 0) * sheet.metresPerUnit;
    Finding finding;
    finding.canBeTight = false;
    finding.limit = fmt::format("of {}", sheet.showLength(within));
    const auto wheels = geometry::placedParts(model, rule.texts.at("wheels"), rule.texts.at("hubs"));
    const NamePatterns steered(patternsFrom(rule.texts.at("steered")));
    std::vector<int> nodeOfTriangle;
    const Mesh flat = geometry::flattened(model, &nodeOfTriangle);
    const std::vector<Body> all = geometry::bodiesOf(model, flat, nodeOfTriangle);
    const auto isBody = bodyNodes(model, rule.texts.at("body"), wheels);
    std::vector<Body> still;
    for (const Body& body : all)
        if (isBody[std::size_t(body.node())]) still.push_back(body);
    const auto world = worldMatrices(model);
    double deepest = 0;
    std::string touching, touched, how;
    std::map<int, std::vector<char>> lit; // by node
    for (const auto& wheel : wheels) {
        std::vector<const Body*> parts;
        for (const Body& body : all)
            if (std::ranges::find(wheel.nodes, body.node()) != wheel.nodes.end()) parts.push_back(&body);
        const glm::dvec3 hub = wheel.hub >= 0 ? glm::dvec3(world[std::size_t(wheel.hub)][3]) : wheel.centre;
        const std::string& name = model.nodes[std::size_t(wheel.node)].name;
        for (const Stance& stance : stancesOf(steered.match(name) ? steering : 0, travel))
            for (const auto& overlap : geometry::overlaps(standing(parts, hub, stance), still, within)) {
                const Body& body = still[overlap.b];
                auto& faces = lit[body.node()];
                faces.resize(overlap.facesOfB.size(), 0);
                for (std::size_t t = 0; t < faces.size(); ++t) faces[t] |= overlap.facesOfB[t];
                if (touching.empty() || overlap.deepest > deepest)
                    deepest = overlap.deepest, touching = name, touched = body.name(),
                    how = shown(stance, sheet);
            }
    }
    for (const auto& [node, faces] : lit)
        for (std::size_t t = 0; t < faces.size(); ++t)
            if (faces[t]) finding.faces.push_back({node, std::uint32_t(t)});
    finding.holds = touching.empty();
    finding.value = deepest / sheet.metresPerUnit;
    finding.measured = touching.empty() ? "free" : sheet.showLength(deepest);
    finding.note = !touching.empty() ? fmt::format("\"{}\", {}, reaches {} into \"{}\"", touching, how,
                                                   sheet.showLength(deepest), touched)
                   : wheels.empty()  ? fmt::format("Nothing is called {}", rule.texts.at("wheels"))
                                     : "Steered and sprung, no wheel touches the body";
    return finding;
}

} // namespace zl::platform
