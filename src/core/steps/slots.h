#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Says which clip a platform plays for which of its movements.
struct Slots {
    struct Filled {
        std::string slot;
        fields::ClipRef clip;

        static constexpr auto fields =
            describe(field<&Filled::slot>("slot", "Slot").offeredBySheet([](const platform::Sheet& sheet) {
                return sheet.slots;
            }),
                     field<&Filled::clip>("clip", "Plays"));
    };
    std::vector<Filled> filled;
    fields::ClipRef others;

    static constexpr StepInfo info{"slots", Stage::Motion, "Slots",
                                   "Say which clip is played for which of the game's movements."};
    static constexpr auto fields =
        describe(field<&Slots::filled>("filled", "Filled")
                     .help("One that is not named takes the clip of its own name."),
                 field<&Slots::others>("others", "All that are empty take")
                     .leastIs("nothing")
                     .help("A clip for the rest."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
