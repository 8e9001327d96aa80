#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Says where in a game's world the thing stands, once or several times: metres along the world's own axes,
/// and how it is turned.
struct PlaceOnMap {
    struct Place {
        glm::dvec3 at{0};
        double turn = 0, nod = 0,
               lean = 0; ///< radians: about up, then its own right-hand axis, then its front
        std::string district;

        static constexpr auto fields =
            describe(field<&Place::at>("at", "At").between(-1e6, 1e6),
                     field<&Place::turn>("turn", "Turned").degrees().between(-360, 360),
                     field<&Place::nod>("nod", "Nods").degrees().between(-180, 180),
                     field<&Place::lean>("lean", "Leans").degrees().between(-180, 180),
                     field<&Place::district>("district", "District").leastIs("where it stands"));
    };
    std::vector<Place> places;

    static constexpr StepInfo info{"place-on-map", Stage::Place, "Place on the map",
                                   "Where in the game's world it stands, and how it is turned."};
    static constexpr auto fields =
        describe(field<&PlaceOnMap::places>("places", "Places")
                     .help("Metres along the world's axes; turned against the clock, seen from above."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

/// From metres along a platform's axes to a model's, and the turn between the two.
glm::dmat4 fromMap(const platform::Sheet* sheet);
/// What `turn`, `nod` and `lean`, in radians, come to in the model's axes.
glm::dquat turnOnMap(double turn, double nod, double lean);
/// The other way round: turn, nod and lean of a turn, radians.
glm::dvec3 anglesOnMap(const glm::dquat& turn);

} // namespace zl::steps
