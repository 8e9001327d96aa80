#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// States what the file's numbers mean. Replaces what was assumed (or declared), so the model changes size
/// and attitude but keeps everything that later placing did to it.
struct UnitAndUp {
    enum class UnitChoice { Millimetres, Centimetres, Decimetres, Metres, Inches, Feet, Custom };
    enum class UpChoice { Y, Z };

    UnitChoice unit = UnitChoice::Metres;
    double metresPerUnit = 1.0;
    UpChoice up = UpChoice::Y;

    static constexpr StepInfo info{"unit-and-up", Stage::Place, "Unit and up",
                                   "Say what one unit of the file is and which of its axes points up."};
    static constexpr Choice units[] = {
        {"mm", "millimetres"}, {"cm", "centimetres"}, {"dm", "decimetres"},        {"m", "metres"},
        {"in", "inches"},      {"ft", "feet"},        {"custom", "another length"}};
    static constexpr Choice ups[] = {{"y", "Y"}, {"z", "Z"}};
    static constexpr auto fields = describe(
        field<&UnitAndUp::unit>("unit", "Unit of the file")
            .oneOf(units)
            .help("What the number 1 in the file stands for."),
        field<&UnitAndUp::metresPerUnit>("metres", "One unit is")
            .metres()
            .between(1e-6, 1e6)
            .when("unit", "custom")
            .help("Length of one unit of the file."),
        field<&UnitAndUp::up>("up", "Up in the file").oneOf(ups).help("The axis that points to the sky."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
