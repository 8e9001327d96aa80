#pragma once
#include "core/steps/changed_pictures.h"

namespace zl::steps {

/// Writes pictures anew as another kind of file, for platforms that take them as they are.
struct PictureKind {
    enum class Kind {
        Png,
        Jpeg,
        Tga,
        Bmp,
        Dds,
        DdsBc1,
        DdsBc3,
        DdsPlain,
        Png256,
        Png256Dithered,
        Png16,
        Png16Dithered,
        PngGrey,
        PngGrey4,
        Tga16,
        Tga16Dithered
    };

    PartNames of;
    RolesMeant roles = RolesMeant::Every;
    Kind kind = Kind::Png;

    static constexpr StepInfo info{
        "picture-kind", Stage::Surface, "Picture kind",
        "Write pictures as PNG, TGA, DDS or what else a platform reads, also in few colours."};
    static constexpr Choice kinds[] = {{"png", "PNG"},
                                       {"jpeg", "JPEG, which loses alpha"},
                                       {"tga", "TGA"},
                                       {"bmp", "BMP"},
                                       {"dds", "DDS, BC1 or with alpha BC3"},
                                       {"dds-bc1", "DDS, BC1"},
                                       {"dds-bc3", "DDS, BC3"},
                                       {"dds-plain", "DDS without blocks"},
                                       {"png-256", "PNG, 256 colours"},
                                       {"png-256-dithered", "PNG, 256 colours, dithered"},
                                       {"png-16", "PNG, 16 colours"},
                                       {"png-16-dithered", "PNG, 16 colours, dithered"},
                                       {"png-grey", "PNG, grey"},
                                       {"png-grey-4", "PNG, 16 greys"},
                                       {"tga-16", "TGA, 5-5-5-1"},
                                       {"tga-16-dithered", "TGA, 5-5-5-1, dithered"}};
    static constexpr auto fields = describe(
        field<&PictureKind::of>("of", "On").leastIs("every material").help("Names, with * for any letters."),
        field<&PictureKind::roles>("roles", "That are for").oneOf(rolesMeant).help("What the pictures show."),
        field<&PictureKind::kind>("kind", "As").oneOf(kinds).help("What the files are."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
