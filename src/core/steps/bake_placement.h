#pragma once
#include "core/geometry/bake.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Puts the transforms of nodes into their corners, so that nothing is left for a game to forget. Bones and
/// animated nodes keep theirs, with clips and bind matrices carried along.
struct BakePlacement {
    geometry::Baked what = geometry::Baked::All;
    PartNames parts;

    static constexpr StepInfo info{"bake-placement", Stage::Place, "Bake placement",
                                   "Put moves, turns and scales into the corners; every node rests at zero."};
    static constexpr Choice whats[] = {{"all", "moves, turns and scales"}, {"scale", "scales alone"}};
    static constexpr auto fields =
        describe(field<&BakePlacement::what>("what", "Bake")
                     .oneOf(whats)
                     .help("Scales alone leave every node where it is: for games that steer by nodes."),
                 field<&BakePlacement::parts>("parts", "Parts")
                     .leastIs("all of them")
                     .help("Names, with * for any letters, separated by commas. Empty is all of them."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
