#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Adds coarser copies of every part for what is seen from farther away: each by a share of the whole's
/// triangles, or within a largest deviation. They are made of what the steps before it leave, hang below the
/// part that they stand for and are named after it as the platform wants. Each says how many triangles it has
/// and how far it is off; one that would be no coarser than the one before is left out, and said, as
/// is what holds a copy above the share that was wanted.
struct LevelsOfDetail {
    struct Level {
        enum class By { Share, Deviation } by = By::Share;
        double share = 0.5;
        double deviation = 0.01; ///< metres

        static constexpr Choice bys[] = {{"share", "a share of the triangles"},
                                         {"deviation", "a largest deviation"}};
        static constexpr auto fields =
            describe(field<&Level::by>("by", "By").oneOf(bys),
                     field<&Level::share>("share", "Keep").share().between(0.0001, 1).when("by", "share"),
                     field<&Level::deviation>("deviation", "Deviate by at most")
                         .metres()
                         .between(1e-7, 1000)
                         .when("by", "deviation"));
    };
    std::vector<Level> levels;
    bool holdBorders = true;
    std::string named; ///< "{name}_lod{n}"

    static constexpr StepInfo info{"levels-of-detail", Stage::Shape, "Levels of detail",
                                   "Add coarser copies for what is seen from farther away.", true};
    static constexpr auto fields = describe(
        field<&LevelsOfDetail::levels>("levels", "Levels")
            .help("From near to far, each coarser than the one before."),
        field<&LevelsOfDetail::holdBorders>("hold-borders", "Hold open edges")
            .help("Corners on open borders stay where they are, which bounds how coarse a copy gets."),
        field<&LevelsOfDetail::named>("named", "Called")
            .leastIs("as the platform wants")
            .help("{name} is the part's name, {n} the level's number; the part itself is level 0."));

    StepInputs inputs() const { return {.sheet = named.empty()}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
