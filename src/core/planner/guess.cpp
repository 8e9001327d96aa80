#include "core/planner/guess.h"

#include "core/geometry/foot_share.h"
#include "core/geometry/world.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::planner {

namespace {

std::vector<std::string_view> usualUnits(std::string_view format) {
    if (format == "stl" || format == "amf" || format == "3mf") return {"mm", "cm", "in", "m"};
    if (format == "fbx") return {"cm", "m", "mm", "in"};
    return {"m", "cm", "mm", "in", "ft"};
}

} // namespace

nlohmann::json unitAndUpParams(const SourceFrame& frame) {
    nlohmann::json params{{"up", frame.up == Up::Y ? "y" : "z"}};
    bool known = false;
    for (const Unit& unit : knownUnits()) known |= unit.id == frame.unit.id;
    params["unit"] = known ? frame.unit.id : "custom";
    if (!known) params["metres"] = frame.unit.metres;
    return params;
}

FrameGuess guessFrame(const Model& model, const platform::Sheet& sheet) {
    FrameGuess guess{model.frame, {}};
    Model raw = model;
    raw.placement = glm::dmat4(1.0);
    const Mesh mesh = geometry::flattened(raw);
    const auto bounds = geometry::meshBounds(mesh);
    if (bounds.empty()) return guess;

    if (model.frame.upAssumed) {
        const double underY = geometry::footShare(mesh, bounds, 1),
                     underZ = geometry::footShare(mesh, bounds, 2);
        const auto clear = [](double a, double b) { return a > 0.03 && a > 2 * b; };
        if (clear(underZ, underY)) {
            guess.frame.up = Up::Z;
            guess.reasons.push_back(
                fmt::format("a flat foot covers {:.0f} % of the plan seen along Z", underZ * 100));
        } else if (clear(underY, underZ)) {
            guess.frame.up = Up::Y;
            guess.reasons.push_back(
                fmt::format("a flat foot covers {:.0f} % of the plan seen along Y", underY * 100));
        } else {
            guess.reasons.push_back(fmt::format("no axis has a clearer foot; {} is usual for this format",
                                                upName(guess.frame.up)));
        }
    }
    if (model.frame.unitAssumed) {
        const glm::dvec3 size = bounds.size();
        const double tall = size[guess.frame.up == Up::Y ? 1 : 2],
                     longest = std::max({size.x, size.y, size.z});
        const platform::RuleSpec* height = nullptr;
        for (const auto& rule : sheet.rules)
            if (rule.check == "height") height = &rule;
        const auto plausible = [&](double metres) {
            if (height) {
                const double units = tall * metres / sheet.metresPerUnit;
                return units >= height->limit("least", 0) && units <= height->limit("most", 1e9);
            }
            const double figures = longest * metres / sheet.figureMetres();
            return figures > 0.05 && figures < 12;
        };
        for (const std::string_view id : usualUnits(model.format)) {
            const Unit& unit = unitNamed(id);
            if (!plausible(unit.metres)) continue;
            guess.frame.unit = unit;
            guess.reasons.push_back(fmt::format("in {} it stands {} tall beside a figure of {}", unit.name,
                                                sheet.showLength(tall * unit.metres),
                                                sheet.showLength(sheet.figureMetres())));
            return guess;
        }
        guess.likely = false;
        guess.reasons.push_back(
            fmt::format("no usual unit gives a likely size; {} are kept", guess.frame.unit.name));
    }
    return guess;
}

} // namespace zl::planner
