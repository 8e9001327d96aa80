#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Lays blocks that are put by hand over a build of blocks, and takes away those that are taken away by hand:
/// a document of blocks, which the window edits and which stays when the build below comes out otherwise.
/// Says how many still touch the build; `facts` has put, taken, turned, and idle: places, in metres of the
/// world, at which nothing is done any more. Throws Error for a model that is no build, and where the
/// document is not to be had.
struct ByHand {
    ModelRef document{ModelRef::Kind::File, ""};

    static constexpr StepInfo info{"by-hand", Stage::Shape, "By hand",
                                   "Blocks that are put, taken away and turned by hand, over the build."};
    static constexpr auto fields = describe(
        field<&ByHand::document>("blocks", "Kept in").help("A document of blocks, edited in the view."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
