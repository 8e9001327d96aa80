#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Says which version of the platform's engine it is made for.
struct EngineVersion {
    std::string version;

    static std::vector<std::string> known(const platform::Sheet& sheet);
    static constexpr StepInfo info{"engine-version", Stage::Contact, "Engine version",
                                   "Say which version of the game's engine it is made for."};
    static constexpr auto fields = describe(field<&EngineVersion::version>("version", "Made for")
                                                .offeredBySheet(known)
                                                .help("A game refuses what was made for another."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
