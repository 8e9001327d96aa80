#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives materials pictures, each in one role; it lies as the material's other pictures do. A plain value
/// beside it gives way to it, as a picture says the whole of its role. Throws Error when a picture is not to
/// be had, or when no material is called so.
struct SetPictures {
    struct Picture {
        PartNames of; ///< names of materials
        PictureRole role = PictureRole::Colour;
        PictureChannel channel = PictureChannel::Colour;
        fields::PictureRef picture;

        static constexpr Choice roles[] = {{"colour", "colour"},       {"opacity", "opacity"},
                                           {"normal", "normal"},       {"height", "height"},
                                           {"roughness", "roughness"}, {"metalness", "metalness"},
                                           {"gloss", "gloss"},         {"specular", "specular"},
                                           {"occlusion", "occlusion"}, {"emission", "emission"}};
        static_assert(std::size(roles) == pictureRoles);
        static constexpr Choice channels[] = {{"all", "all of it"},
                                              {"red", "its red"},
                                              {"green", "its green"},
                                              {"blue", "its blue"},
                                              {"alpha", "its alpha"}};
        static constexpr auto fields = describe(field<&Picture::picture>("picture", "Picture"),
                                                field<&Picture::role>("role", "Is").oneOf(roles),
                                                field<&Picture::channel>("channel", "Taken").oneOf(channels),
                                                field<&Picture::of>("of", "On").leastIs("every material"));
    };
    std::vector<Picture> pictures;

    static constexpr StepInfo info{"set-pictures", Stage::Surface, "Set pictures",
                                   "Put pictures on materials, each for what it shows."};
    static constexpr auto fields =
        describe(field<&SetPictures::pictures>("pictures", "Pictures")
                     .help("A file or one of the model's own; what it is for; on which materials."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
