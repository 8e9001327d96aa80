#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// A step's entry in the manual, in Markdown: its name, id, stage and help, and a table of its parameters
/// with kind, choices, range, default and help, all from its table of fields.
std::string manualEntry(const Step& step);

/// All steps' entries under one heading each stage.
std::string manual();

} // namespace zl::steps
