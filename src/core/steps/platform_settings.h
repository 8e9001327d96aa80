#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives every material the settings that the platform wants, each with the value it wants.
struct PlatformSettings {
    static constexpr StepInfo info{"platform-settings", Stage::Surface, "Settings as wanted",
                                   "Give all materials the settings that the platform wants, at once."};
    static constexpr auto fields = describe();

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
