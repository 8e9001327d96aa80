#pragma once
#include "core/steps/changed_pictures.h"
#include "core/steps/set_pictures.h"

namespace zl::steps {

/// What the fourth channel of colour pictures holds: nothing, what it held, or one channel of another
/// picture, brought to the same size. Where it clears pixels, colours of the nearest seen ones can be put
/// below, so that edges do not darken when the game shrinks the picture. Throws Error when the other picture
/// is not to be had.
struct PictureAlpha {
    enum class Way { Drop, Keep, From };

    PartNames of;
    Way way = Way::Drop;
    fields::PictureRef picture;
    PictureChannel taken = PictureChannel::Colour;
    bool bleed = true;

    static constexpr StepInfo info{"picture-alpha", Stage::Surface, "Alpha",
                                   "Take see-through out of colour pictures, keep it, or put it in."};
    static constexpr Choice ways[] = {
        {"drop", "none"}, {"keep", "what it holds"}, {"from", "from another picture"}};
    static constexpr auto fields = describe(
        field<&PictureAlpha::of>("of", "On").leastIs("every material").help("Names, with * for any letters."),
        field<&PictureAlpha::way>("way", "Alpha").oneOf(ways).help("Of the colour pictures."),
        field<&PictureAlpha::picture>("picture", "Picture")
            .when("way", "from")
            .help("A file or one of the model's."),
        field<&PictureAlpha::taken>("taken", "Taken")
            .oneOf(SetPictures::Picture::channels)
            .when("way", "from")
            .help("White is seen."),
        field<&PictureAlpha::bleed>("bleed", "Colours below what is clear")
            .when("way", "keep from")
            .help("Those of the nearest pixels that are seen."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
