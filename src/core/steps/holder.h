#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Puts one node around everything, called as the platform wants it after the piece, at rest: at the origin,
/// neither turned nor scaled. Where the whole stands goes into what is below, so nothing moves. A node around
/// everything that shows nothing becomes it.
struct Holder {
    std::string called;

    static constexpr StepInfo info{"holder", Stage::Contact, "Holder",
                                   "One node around everything, at rest, for the game to hold it by."};
    static constexpr auto fields = describe(field<&Holder::called>("called", "Called")
                                                .leastIs("after the piece, as the platform wants it")
                                                .help("Its whole name, where it is to have another."));

    StepInputs inputs() const { return {.sheet = true, .provenance = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
