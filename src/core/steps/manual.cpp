#include "core/steps/manual.h"

#include "core/base/json_text.h"

namespace zl::steps {

namespace {

std::string_view unitWords(FieldKind kind) {
    switch (kind) {
    case FieldKind::Length:
        return "metres";
    case FieldKind::Angle:
        return "degrees";
    case FieldKind::Share:
        return "a share";
    case FieldKind::Count:
        return "a whole number";
    case FieldKind::Flag:
        return "`true` or `false`";
    case FieldKind::Point:
        return "`[x, y, z]` in metres";
    case FieldKind::Text:
        return "text";
    case FieldKind::Parts:
        return "`[\"name\", …]`";
    default:
        return "a number";
    }
}

/// What a parameter takes: its choices, or its unit and range. A limit beyond any use is not said.
std::string takes(const Field& field) {
    if (field.kind == FieldKind::Choice) {
        std::string choices;
        for (const Choice& choice : field.choices)
            choices += fmt::format("{}`{}` {}", choices.empty() ? "" : ", ", choice.id, choice.label);
        return choices;
    }
    std::string out(unitWords(field.kind));
    if ((field.kind == FieldKind::Text || field.kind == FieldKind::Parts) && !field.leastMeans.empty())
        return out + fmt::format("; empty is {}", field.leastMeans);
    if (field.kind == FieldKind::Flag || field.kind == FieldKind::Point || field.kind == FieldKind::Text ||
        field.kind == FieldKind::Parts)
        return out;
    constexpr double beyondUse = 1e6;
    if (field.least > -beyondUse && field.most < beyondUse)
        out += fmt::format(", {} to {}", field.least, field.most);
    else if (field.least > -beyondUse)
        out += fmt::format(", {} or more", field.least);
    if (!field.leastMeans.empty()) out += fmt::format("; {} is {}", field.least, field.leastMeans);
    return out;
}

std::string whenItCounts(const Step& step, const Field& field) {
    if (field.whenField.empty()) return {};
    std::string_view label = field.whenField;
    for (const Field& other : step.fields())
        if (other.name == field.whenField) label = other.label;
    std::string values(field.whenValues);
    for (std::size_t at = 0; (at = values.find(' ', at)) != std::string::npos; at += 6)
        values.replace(at, 1, "`, or `");
    return fmt::format(" Counts when *{}* is `{}`.", label, values);
}

} // namespace

std::string manualEntry(const Step& step) {
    std::string out = fmt::format("### {}\n`{}`: {}\n", step.info().name, step.info().id, step.info().help);
    if (step.fields().empty()) return out + "\nIt takes no parameters.\n";
    out += "\n| parameter | | takes | default | |\n|---|---|---|---|---|\n";
    const auto defaults = step.params();
    for (const Field& field : step.fields())
        out += fmt::format("| `{}` | {} | {} | `{}` | {}{} |\n", field.name, field.label, takes(field),
                           jsonText(defaults[std::string(field.name)]), field.explanation,
                           whenItCounts(step, field));
    return out;
}

std::string manual() {
    std::string out = "# Steps\n\nMade from the steps' own tables by `zest-loom-cli steps --manual`.\n";
    std::string_view stage;
    for (const auto& step : allSteps()) {
        if (stageName(step->info().stage) != stage) {
            stage = stageName(step->info().stage);
            out += fmt::format("\n## {}\n", stage);
        }
        out += "\n" + manualEntry(*step);
    }
    return out;
}

} // namespace zl::steps
