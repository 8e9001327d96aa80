#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Fewer triangles, with UV seams, material borders and open borders kept. Lands at 97–100 % of the wanted
/// number where the shape allows it, and says so where not. Reports the largest and the mean deviation
/// between both surfaces, measured in both directions, as share of the model's height.
struct ReduceTriangles {
    enum class Goal { Limit, Number, Share, Deviation };

    Goal goal = Goal::Limit;
    int number = 10000;
    double share = 0.5;
    double deviation = 0.001; ///< metres
    bool holdBorders = true;

    static constexpr StepInfo info{"reduce-triangles", Stage::Shape, "Reduce triangles",
                                   "Make the model of fewer triangles and measure what that changes."};
    static constexpr Choice goals[] = {{"limit", "fit the platform's limit"},
                                       {"number", "a number"},
                                       {"share", "a share of what there is"},
                                       {"deviation", "a largest deviation"}};
    static constexpr auto fields =
        describe(field<&ReduceTriangles::goal>("goal", "Goal")
                     .oneOf(goals)
                     .help("What decides how many triangles stay."),
                 field<&ReduceTriangles::number>("number", "Keep below")
                     .between(4, 100000000)
                     .when("goal", "number")
                     .help("Triangles that may stay."),
                 field<&ReduceTriangles::share>("share", "Keep")
                     .share()
                     .between(0.0001, 1)
                     .when("goal", "share")
                     .help("Share of the triangles that may stay."),
                 field<&ReduceTriangles::deviation>("deviation", "Deviate by at most")
                     .metres()
                     .between(1e-7, 1000)
                     .when("goal", "deviation")
                     .help("Largest distance between old and new surface."),
                 field<&ReduceTriangles::holdBorders>("hold-borders", "Hold open edges")
                     .help("Corners on open borders stay where they are."));

    StepInputs inputs() const { return {.sheet = goal == Goal::Limit}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
