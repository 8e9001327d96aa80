#include "core/planner/questions.h"

#include "core/base/units.h"
#include "core/geometry/world.h"
#include "core/planner/whole_blocks.h"

#include <algorithm>

namespace zl::planner {

bool isAnswered(const recipe::Recipe& answers, std::string_view step) {
    return std::ranges::any_of(answers, [&](const recipe::Entry& answer) { return answer.step == step; });
}

std::optional<Question> questionFor(const platform::RuleSpec& spec, const Model& now,
                                    const platform::Sheet& sheet, const recipe::Recipe& answers) {
    if (spec.check == "heading-known" && !now.headingKnown)
        return Question{spec.id, "heading", "Which way does its front point?", {}};
    if (spec.check == "surfaces-set" && !isAnswered(answers, "surface-kind") && !sheet.touch.surfaces.empty())
        return Question{spec.id, "surface-kind", "What is it made of?", {}};
    if (spec.check != "whole-blocks" || isAnswered(answers, "reshape")) return std::nullopt;
    const auto sides = geometry::worldBounds(now).size() / sheet.metresPerUnit;
    const auto stretch = stretchToWhole(sides);
    if (!stretch) return std::nullopt;
    const glm::dvec3 whole = glm::round(sides * *stretch);
    return Question{spec.id,
                    "reshape",
                    fmt::format("May it be stretched to {} × {} × {} blocks?", showNumber(whole.x, 0),
                                showNumber(whole.y, 0), showNumber(whole.z, 0)),
                    {}};
}

std::optional<Question> sizeQuestion(const Model& start, const Model& now,
                                     const std::vector<PlannedStep>& steps, const platform::Sheet& sheet,
                                     const recipe::Recipe& answers, bool likelySize) {
    if (!start.frame.unitAssumed || triangleCount(start) == 0 || isAnswered(answers, "size"))
        return std::nullopt;
    const auto sized = std::ranges::find(
        steps, "size", [](const PlannedStep& step) -> std::string_view { return step.entry.step; });
    std::string goesBy;
    if (sized != steps.end()) {
        const auto& params = sized->entry.params;
        const std::string by = params.value("by", "");
        goesBy = fmt::format("{} {}, which {} allows", sheet.showLength(params.value("measure", 1.0)),
                             by == "width"    ? "wide"
                             : by == "length" ? "long"
                                              : "tall",
                             sheet.name);
    } else if (!likelySize) {
        goesBy = fmt::format("its numbers as {}", now.frame.unit.name);
    }
    if (goesBy.empty()) return std::nullopt;
    return Question{{}, "size", "How large is it really?", std::move(goesBy)};
}

bool makesAnotherShape(std::string_view step, const nlohmann::json& params) {
    if (step != "reshape") return false;
    for (const auto& row : params.at("rows"))
        if (const auto& s = row.at("scale"); !keepsShape({s[0], s[1], s[2]})) return true;
    return false;
}

} // namespace zl::planner
