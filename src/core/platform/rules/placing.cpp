// Rules about size and place: height, floor, origin, a known unit, a size that makes sense beside a figure.
#include "core/platform/rules/all_rules.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::platform {

namespace {

/// A length within a range, along one of our axes (0 width, 1 height, 2 length).
Finding measureAlong(const Measures& m, const Sheet& sheet, const RuleSpec& rule, int axis) {
    Finding finding;
    const double metres = m.bounds().size()[axis];
    finding.low = rule.limit("least", 0);
    finding.high = rule.limit("most", 1e9);
    finding.value = metres / sheet.metresPerUnit;
    // Sizes that were set to a limit exactly must not break it by the last digit.
    const double slack = 1e-4 * finding.high;
    finding.holds = finding.value >= finding.low - slack && finding.value <= finding.high + slack;
    finding.measured = sheet.showLength(metres);
    finding.limit =
        fmt::format("{}–{}\u202f{}", showNumber(finding.low), showNumber(finding.high), sheet.unitName);
    if (!finding.holds)
        finding.share = finding.value > finding.high ? finding.value / finding.high
                                                     : finding.low / std::max(finding.value, 1e-9);
    return finding;
}

} // namespace

Finding measureHeight(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    Finding finding = measureAlong(m, sheet, rule, 1);
    const double figures = finding.value / sheet.figureHeight;
    finding.note = fmt::format("Stands {} tall, {} of a figure's height", finding.measured,
                               figures < 0.01 || figures > 100 ? showMeasure(figures) + "×"
                                                               : showNumber(figures * 100, 0) + "\u202f%");
    return finding;
}

Finding measureWidth(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    Finding finding = measureAlong(m, sheet, rule, 0);
    finding.note = fmt::format("It is {} wide", sheet.showBoth(m.bounds().size().x));
    return finding;
}

Finding measureLength(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    Finding finding = measureAlong(m, sheet, rule, 2);
    finding.note = fmt::format("It is {} long", sheet.showBoth(m.bounds().size().z));
    return finding;
}

Finding measureSizeBesideFigure(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    Finding finding;
    const auto size = m.bounds().size();
    const double largest = std::max({size.x, size.y, size.z});
    finding.low = rule.limit("least", 0.02);
    finding.high = rule.limit("most", 30);
    finding.value = largest / sheet.figureMetres();
    finding.holds = finding.value >= finding.low && finding.value <= finding.high;
    finding.measured = showMeasure(finding.value) + "×";
    finding.limit = fmt::format("{}–{} figures", showNumber(finding.low), showNumber(finding.high));
    finding.note = fmt::format("Its longest side is {}, {} times a figure's height",
                               sheet.showLength(largest), showMeasure(finding.value));
    if (!finding.holds)
        finding.share = finding.value > finding.high ? finding.value / finding.high
                                                     : finding.low / std::max(finding.value, 1e-9);
    return finding;
}

Finding measureStandsOnFloor(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    Finding finding;
    const double tolerance = rule.limit("within", 0.01);
    const double gap = m.bounds().empty() ? 0 : m.bounds().min.y / sheet.metresPerUnit;
    finding.value = gap;
    finding.holds = std::abs(gap) <= tolerance + 1e-9;
    finding.measured = finding.holds ? "on it" : sheet.showLength(m.bounds().min.y);
    finding.limit = fmt::format("±{}\u202f{}", showNumber(tolerance, 4), sheet.unitName);
    finding.note = finding.holds ? "Its lowest point is on the floor"
                                 : fmt::format("Its lowest point is {} {} the floor",
                                               sheet.showLength(std::abs(m.bounds().min.y)),
                                               gap > 0 ? "above" : "below");
    return finding;
}

Finding measureOriginUnderFoot(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    Finding finding;
    const double tolerance = rule.limit("within", 0.02);
    const double away = glm::length(m.foot().middle) / sheet.metresPerUnit;
    finding.value = away;
    finding.holds = away <= tolerance + 1e-9;
    finding.measured = finding.holds ? "centred" : sheet.showLength(glm::length(m.foot().middle)) + " off";
    finding.limit = fmt::format("±{}\u202f{}", showNumber(tolerance, 4), sheet.unitName);
    finding.note = finding.holds ? "The origin is under the middle of the foot"
                                 : fmt::format("The origin is {} from the middle of the foot",
                                               sheet.showLength(glm::length(m.foot().middle)));
    return finding;
}

Finding measureUnitKnown(const Measures& m, const Sheet&, const RuleSpec&) {
    const SourceFrame& frame = m.model().frame;
    Finding finding;
    finding.holds = !frame.unitAssumed;
    finding.value = frame.unitAssumed ? 0 : 1;
    finding.measured = frame.unit.name + (frame.unitAssumed ? "?" : "");
    finding.limit = "a known unit";
    finding.note = frame.unitAssumed
                       ? fmt::format("The file does not say its unit; {} are assumed", frame.unit.name)
                       : fmt::format("The file is in {}", frame.unit.name);
    return finding;
}

} // namespace zl::platform
