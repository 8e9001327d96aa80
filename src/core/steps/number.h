#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives a thing its number in a game's world, how far off it is still drawn, and its traits.
struct Number {
    struct Trait {
        std::string trait;

        static std::vector<std::string> known(const platform::Sheet& sheet) { return sheet.world.traits; }
        static constexpr auto fields = describe(field<&Trait::trait>("trait", "Trait").offeredBySheet(known));
    };

    int number = 0;
    double viewDistance = 0;
    std::vector<Trait> traits;

    static constexpr StepInfo info{"number", Stage::Place, "Number",
                                   "Its number in the game's world, how far off it is seen, and its traits."};
    static constexpr auto fields =
        describe(field<&Number::number>("number", "Number")
                     .between(0, 1e9)
                     .leastIs("the first that is free")
                     .help("One that nobody else has. The first that is free in the project, where none is "
                           "given; the map gives one that is free in the game, too."),
                 field<&Number::viewDistance>("view-distance", "Seen from")
                     .metres()
                     .between(0, 1e6)
                     .leastIs("by its size")
                     .help("How far off it is still drawn."),
                 field<&Number::traits>("traits", "Traits").help("What else the game is to know of it."));

    StepInputs inputs() const { return {.sheet = true, .provenance = true, .numbers = true}; }
    /// The least and the most that a platform takes.
    static std::pair<int, int> range(const platform::Sheet* sheet);
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
