#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives materials a picture of one colour in place of the plain one, for platforms where each must have a
/// picture; parts without UVs get a place on it. Where corners have colours these can be drawn instead: each
/// triangle's at its own place on the UVs.
struct ColourToPicture {
    enum class From { Plain, Corners };

    PartNames of;
    From from = From::Plain;
    int edge = 16; ///< pixels

    static constexpr StepInfo info{"colour-to-picture", Stage::Surface, "Colour to picture",
                                   "Make a picture of a plain colour or of corners' colours."};
    static constexpr Choice froms[] = {{"plain", "the material's plain colour"},
                                       {"corners", "the colours of its corners"}};
    static constexpr auto fields =
        describe(field<&ColourToPicture::of>("of", "On")
                     .leastIs("every material")
                     .help("Names, with * for any letters."),
                 field<&ColourToPicture::from>("from", "From").oneOf(froms).help("What is drawn."),
                 field<&ColourToPicture::edge>("edge", "Pixels")
                     .between(1, 8192)
                     .help("Along each edge of the picture."));

    Model apply(const Model& in, StepContext& context) const;
};

/// Gives materials the mean colour of what their parts show of the picture, weighed by area in linear light,
/// and takes the colour picture off; or gives it to the corners, each that at its own place.
struct PictureToColour {
    enum class To { Plain, Corners };

    PartNames of;
    To to = To::Plain;

    static constexpr StepInfo info{"picture-to-colour", Stage::Surface, "Picture to colour",
                                   "Let a plain colour, or corners' colours, stand for a picture."};
    static constexpr Choice tos[] = {{"plain", "one colour a material"}, {"corners", "a colour a corner"}};
    static constexpr auto fields =
        describe(field<&PictureToColour::of>("of", "On")
                     .leastIs("every material")
                     .help("Names, with * for any letters."),
                 field<&PictureToColour::to>("to", "To")
                     .oneOf(tos)
                     .help("Corners keep coarse drawing; a dense mesh keeps more of it."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
