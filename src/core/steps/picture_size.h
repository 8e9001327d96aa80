#pragma once
#include "core/steps/changed_pictures.h"

namespace zl::steps {

/// Makes pictures smaller (texture::resized: means of areas, colours as light, normals brought back to length
/// 1), and their sides powers of two where that is wanted. Nothing gets larger but for that.
struct PictureSize {
    enum class Goal { Limit, Number, Share };
    enum class Sides { AsTheyCome, Nearest, Up, Down };

    PartNames of;
    RolesMeant roles = RolesMeant::Every;
    Goal goal = Goal::Limit;
    int number = 1024; ///< pixels along the longer edge, at most
    double share = 0.5;
    Sides sides = Sides::AsTheyCome;

    static constexpr StepInfo info{"picture-size", Stage::Surface, "Picture size",
                                   "Make pictures as small as the platform takes, or smaller."};
    static constexpr Choice goals[] = {{"limit", "the platform's limit"},
                                       {"number", "a number of pixels"},
                                       {"share", "a share of what it is"}};
    static constexpr Choice sideChoices[] = {{"as-they-come", "as they come"},
                                             {"nearest", "the nearest power of two"},
                                             {"up", "the next power of two"},
                                             {"down", "the power of two before"}};
    static constexpr auto fields = describe(
        field<&PictureSize::of>("of", "On").leastIs("every material").help("Names, with * for any letters."),
        field<&PictureSize::roles>("roles", "That are for").oneOf(rolesMeant).help("What the pictures show."),
        field<&PictureSize::goal>("goal", "Edge").oneOf(goals).help("How long the longer edge may be."),
        field<&PictureSize::number>("number", "Pixels")
            .between(1, 32768)
            .when("goal", "number")
            .help("Of the longer edge, at most."),
        field<&PictureSize::share>("share", "Share")
            .share()
            .between(0.001, 1)
            .when("goal", "share")
            .help("Of each edge."),
        field<&PictureSize::sides>("sides", "Sides")
            .oneOf(sideChoices)
            .help("Some platforms want 256, 512, 1024 …"));

    StepInputs inputs() const { return {.sheet = goal == Goal::Limit}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
