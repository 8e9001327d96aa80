#pragma once
#include "core/model/model.h"
#include "core/platform/sheet.h"

#include <nlohmann/json.hpp>

namespace zl::planner {

/// What a file without unit or up axis most likely means, and why.
struct FrameGuess {
    SourceFrame frame; ///< still marked as assumed
    std::vector<std::string> reasons;
    bool likely = true; ///< false: no usual unit makes it a plausible size
};

/// Looks at the file's own numbers: the unit is the first, in the order of what is usual for the format, in
/// which the model is of a plausible size beside the platform's figure; up is the axis with a flat foot.
FrameGuess guessFrame(const Model& model, const platform::Sheet& sheet);

/// The parameters by which the step "unit-and-up" says that frame.
nlohmann::json unitAndUpParams(const SourceFrame& frame);

} // namespace zl::planner
