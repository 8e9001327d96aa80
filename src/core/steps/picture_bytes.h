#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Brings pictures into so many bytes each, in the format and size that lose least; or as somebody chose.
struct PictureBytes {
    enum class As { Best, Colour16, GreyAlpha8, Grey4, Palette256, Palette16 };
    struct Chosen {
        std::string picture;
        As as = As::Best;
        int edge = 0;

        static constexpr Choice formats[] = {
            {"best", "what loses least"}, {"colour-16", "16-bit colour"}, {"grey-alpha-8", "grey with alpha"},
            {"grey-4", "16 greys"},       {"palette-256", "256 colours"}, {"palette-16", "16 colours"}};
        static constexpr auto fields = describe(
            field<&Chosen::picture>("picture", "Picture").help("Its name, with * for any letters."),
            field<&Chosen::as>("as", "As").oneOf(formats),
            field<&Chosen::edge>("edge", "Edge").count().between(0, 4096).leastIs("the largest that fits"));
    };

    int most = 0;
    bool dithered = true;
    std::vector<Chosen> choices;

    static constexpr StepInfo info{"picture-bytes", Stage::Surface, "Picture bytes",
                                   "Bring pictures into few bytes, in the format and size that lose least."};
    static constexpr auto fields =
        describe(field<&PictureBytes::most>("most", "Bytes a picture")
                     .count()
                     .between(0, 16777216)
                     .leastIs("as the platform says")
                     .help("What a picture may take, its palette included."),
                 field<&PictureBytes::dithered>("dithered", "Dithered")
                     .help("Spread what is lost over pixels beside it."),
                 field<&PictureBytes::choices>("choices", "Chosen")
                     .help("For pictures that are to be otherwise than what loses least."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
