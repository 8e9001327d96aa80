#include "core/steps/manual.h"

#include "core/base/json_text.h"

namespace zl::steps {

std::string manualEntry(const Step& step) {
    return fmt::format("### {}\n`{}`: {}\n{}", step.info().name, step.info().id, step.info().help,
                       fields::manualTable(step.fields(), step.params()));
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
