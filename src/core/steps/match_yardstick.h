#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Scales the model about the origin so that one of its measures is that of another model, such as a
/// yardstick: an object known from the game, brought into the project and never delivered. Throws Error when
/// there is no such model or part, or when the measure is zero on either side (a yardstick with no volume).
struct MatchYardstick {
    enum class By { Height, Width, Length, Volume };

    By by = By::Height;
    ModelRef yardstick{ModelRef::Kind::Yardstick, ""};
    PartNames part, yardstickPart;
    double ratio = 1.0;

    static constexpr StepInfo info{"match-yardstick", Stage::Place, "Match a yardstick",
                                   "Make a measure equal to that of an object known from the game."};
    static constexpr Choice measures[] = {
        {"height", "height"}, {"width", "width"}, {"length", "length"}, {"volume", "volume"}};
    static constexpr auto fields = describe(
        field<&MatchYardstick::by>("by", "Match the").oneOf(measures).help("Volume needs closed shapes."),
        field<&MatchYardstick::yardstick>("yardstick", "Of")
            .leastIs("the first yardstick")
            .help("A yardstick, or another piece as it comes out here."),
        field<&MatchYardstick::part>("part", "Measured on")
            .leastIs("all of it")
            .help("Parts of this model, with * for any letters. Empty is all of it."),
        field<&MatchYardstick::yardstickPart>("yardstick-part", "Its part")
            .leastIs("all of it")
            .help("Parts of the yardstick, with * for any letters. Empty is all of it."),
        field<&MatchYardstick::ratio>("ratio", "Times")
            .between(1e-4, 1e4)
            .help("2 makes the measure twice the yardstick's."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
