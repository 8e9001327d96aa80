#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Takes chosen faces out of the way of the next steps and joins them back behind those, so that what must
/// keep its shape keeps it: a circle stays one while the rest is stretched. They go along where the object
/// that they are of is moved, turned or scaled alike in all directions, and are never bent; the rest's border
/// comes to them. Throws Error when the selection cannot be made out.
struct KeepAside {
    Selection faces;
    int steps = 1;

    static constexpr StepInfo info{"keep-aside", Stage::Shape, "Keep aside",
                                   "Protect chosen faces from the next steps, then join them back."};
    static constexpr auto fields = describe(
        field<&KeepAside::faces>("faces", "What").leastIs("nothing yet").help("Select it in the view."),
        field<&KeepAside::steps>("steps", "During")
            .between(1, 50)
            .help("How many of the next steps it is kept from."));

    Model apply(const Model& in, StepContext& context) const;
    int covers() const { return steps; }
    /// `now` with what apply() kept aside.
    Model close(const Aside& aside, const Model& now, StepContext& context) const;
};

} // namespace zl::steps
