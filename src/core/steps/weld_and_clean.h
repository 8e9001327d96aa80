#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Joins equal corners, drops triangles without area and doubles, and makes faces look outward.
/// UV seams and hard edges stay. Says how many of each.
struct WeldAndClean {
    double tolerance = 0; ///< metres, at the model's size when the step runs
    bool slivers = true;
    bool winding = true;

    static constexpr StepInfo info{"weld-and-clean", Stage::Shape, "Weld and clean",
                                   "Join equal corners, drop slivers and doubles, face outward."};
    static constexpr auto fields =
        describe(field<&WeldAndClean::tolerance>("tolerance", "Join within")
                     .metres()
                     .between(0, 1)
                     .help("0 joins only corners at exactly the same place."),
                 field<&WeldAndClean::slivers>("slivers", "Drop slivers and doubles")
                     .help("Triangles without area, and triangles that lie on another."),
                 field<&WeldAndClean::winding>("outward", "Face outward")
                     .help("Turns triangles round until neighbours agree and fronts look out."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
