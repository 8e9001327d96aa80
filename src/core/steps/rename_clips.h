#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives clips other names by a pattern; a name that would be used twice gets a number.
struct RenameClips {
    std::string find = "*";
    std::string become = "{1}";

    static constexpr StepInfo info{"rename-clips", Stage::Motion, "Rename clips",
                                   "Give clips the names that a game looks for."};
    static constexpr auto fields =
        describe(field<&RenameClips::find>("find", "Names like").help("* stands for any letters, ? for one."),
                 field<&RenameClips::become>("become", "Become")
                     .help("{1} is what the first * stood for, {n} a number, {name} the old name."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
