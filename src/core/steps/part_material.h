#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives chosen faces a material of their own within their object: a copy of what they wear, with another
/// colour picture and other settings. They come behind the object's other faces, in their order. Throws Error
/// when the selection cannot be made out or the picture is not to be had.
struct PartMaterial {
    struct Setting {
        std::string name;
        std::string value; ///< "true", "false", a number, or any other text

        static constexpr auto fields = describe(field<&Setting::name>("name", "Setting"),
                                                field<&Setting::value>("value", "Is"));
    };
    Selection faces;
    std::string called;
    fields::PictureRef picture;
    std::vector<Setting> settings;

    static constexpr StepInfo info{"part-material", Stage::Surface, "Material of a part",
                                   "Give chosen faces another picture or other settings than the rest."};
    static constexpr auto fields = describe(
        field<&PartMaterial::faces>("faces", "Of").leastIs("nothing yet").help("Select it in the view."),
        field<&PartMaterial::called>("called", "Called")
            .leastIs("as before, with a number")
            .help("What the new material is called."),
        field<&PartMaterial::picture>("picture", "Colour picture")
            .help("A file or one of the model's own; none keeps the one that it has."),
        field<&PartMaterial::settings>("settings", "Settings")
            .help("Named values that the platform knows, such as shine 0.8."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
