#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Says which way the model's front points now, and turns it about the vertical so that it faces as the
/// platform wants. Quarter turns are exact.
struct Heading {
    enum class Front { PlusZ, PlusX, MinusZ, MinusX, Angle };

    Front front = Front::PlusZ;
    double angle = 0; ///< radians from +Z towards +X

    static constexpr StepInfo info{
        "heading", Stage::Place, "Heading",
        "Say where the front points; the platform's own front axis follows from it."};
    static constexpr Choice fronts[] = {
        {"+z", "+Z"}, {"+x", "+X"}, {"-z", "−Z"}, {"-x", "−X"}, {"angle", "at an angle"}};
    static constexpr auto fields =
        describe(field<&Heading::front>("front", "The front points to")
                     .oneOf(fronts)
                     .help("As the model stands before this step; X is right, Z is towards you."),
                 field<&Heading::angle>("angle", "Angle")
                     .degrees()
                     .between(-360, 360)
                     .when("front", "angle")
                     .help("From +Z towards +X."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
