#include "core/steps/manual.h"

#include "core/base/json_text.h"

namespace zl::steps {

namespace {

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
        out += fmt::format("| `{}` | {} | {} | `{}` | {}{} |\n", field.name, field.label,
                           field.type().describe(field), jsonText(defaults[std::string(field.name)]),
                           field.explanation, whenItCounts(step, field));
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
