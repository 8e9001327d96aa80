#pragma once
#include "core/steps/changed_pictures.h"

namespace zl::steps {

/// Puts the channels of pictures in another order, turns them over, or makes them white or black: so the
/// green of a normal map for games that count it downward. A gloss picture can be made a roughness picture,
/// and the other way round.
struct TurnChannels {
    enum class Holds { Red, Green, Blue, Alpha, NotRed, NotGreen, NotBlue, NotAlpha, White, Black };
    enum class Meaning { AsBefore, GlossToRoughness, RoughnessToGloss };

    PartNames of;
    RolesMeant roles = RolesMeant::Normal;
    Holds red = Holds::Red, green = Holds::Green, blue = Holds::Blue, alpha = Holds::Alpha;
    Meaning meaning = Meaning::AsBefore;

    static constexpr StepInfo info{"turn-channels", Stage::Surface, "Turn channels",
                                   "Swap a picture's channels or turn them over."};
    static constexpr Choice held[] = {
        {"red", "red"},         {"green", "green"},       {"blue", "blue"},       {"alpha", "alpha"},
        {"1-red", "1 - red"},   {"1-green", "1 - green"}, {"1-blue", "1 - blue"}, {"1-alpha", "1 - alpha"},
        {"white", "white (1)"}, {"black", "black (0)"}};
    static constexpr Choice meanings[] = {{"as-before", "what it was for"},
                                          {"gloss-to-roughness", "gloss becomes roughness"},
                                          {"roughness-to-gloss", "roughness becomes gloss"}};
    static constexpr auto fields = describe(
        field<&TurnChannels::of>("of", "On").leastIs("every material").help("Names, with * for any letters."),
        field<&TurnChannels::meaning>("meaning", "Is for")
            .oneOf(meanings)
            .help("Gloss is roughness turned over; the material's picture changes its role."),
        field<&TurnChannels::roles>("roles", "That are for")
            .oneOf(rolesMeant)
            .when("meaning", "as-before")
            .help("What the pictures show."),
        field<&TurnChannels::red>("red", "Red is")
            .oneOf(held)
            .when("meaning", "as-before")
            .help("One of the channels that there were."),
        field<&TurnChannels::green>("green", "Green is")
            .oneOf(held)
            .when("meaning", "as-before")
            .help("1 - green turns a normal map over for games that count it downward."),
        field<&TurnChannels::blue>("blue", "Blue is")
            .oneOf(held)
            .when("meaning", "as-before")
            .help("One of the channels that there were."),
        field<&TurnChannels::alpha>("alpha", "Alpha is")
            .oneOf(held)
            .when("meaning", "as-before")
            .help("One of the channels that there were."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
