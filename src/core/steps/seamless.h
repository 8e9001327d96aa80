#pragma once
#include "core/steps/changed_pictures.h"

namespace zl::steps {

/// Makes pictures tile: near each border they go over into themselves, moved by half (texture::madeToTile).
/// All pictures of a material are changed in the same places, so they stay in register.
struct Seamless {
    PartNames of;
    RolesMeant roles = RolesMeant::Every;
    bool across = true, down = true;
    double band = 0.15;

    static constexpr StepInfo info{"seamless", Stage::Surface, "Seamless",
                                   "Make pictures go on where they end."};
    static constexpr auto fields = describe(
        field<&Seamless::of>("of", "On").leastIs("every material").help("Names, with * for any letters."),
        field<&Seamless::roles>("roles", "That are for").oneOf(rolesMeant).help("What the pictures show."),
        field<&Seamless::across>("across", "Left and right").help("Beside itself no edge is seen."),
        field<&Seamless::down>("down", "Above and below").help("Above itself no edge is seen."),
        field<&Seamless::band>("band", "Blended over")
            .share()
            .between(0.01, 0.5)
            .help("How much of the picture at each border goes over into itself."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
