#include "core/texture/picture_format.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/base/words.h"

#include <fmt/format.h>

namespace zl::texture {

std::span<const PictureFormat> allPictureFormats() {
    // TGA comes last, for its bytes have no mark to be told by.
    static constexpr PictureFormat formats[] = {
        {"png", "PNG", "image/png", ".png", 32, pngFacts, readByStb, writePng},
        {"jpeg", "JPEG", "image/jpeg", ".jpg", 32, jpegFacts, readByStb, writeJpeg},
        {"bmp", "BMP", "image/bmp", ".bmp", 32, bmpFacts, readByStb, writeBmp},
        {"dds", "DDS", "image/vnd-ms.dds", ".dds", 8, ddsFacts, readDds, writeDds},
        {"dds-bc1", "DDS, BC1", "image/vnd-ms.dds", ".dds", 4, nullptr, readDds, writeDdsBc1},
        {"dds-bc3", "DDS, BC3", "image/vnd-ms.dds", ".dds", 8, nullptr, readDds, writeDdsBc3},
        {"dds-bc4", "DDS, BC4", "image/vnd-ms.dds", ".dds", 4, nullptr, readDds, writeDdsBc4},
        {"dds-bc5", "DDS, BC5", "image/vnd-ms.dds", ".dds", 8, nullptr, readDds, writeDdsBc5},
        {"dds-plain", "DDS without blocks", "image/vnd-ms.dds", ".dds", 32, nullptr, readDds, writeDdsPlain},
        {"png-256", "PNG, 256 colours", "image/png", ".png", 8, nullptr, readByStb, writePng256},
        {"png-256-dithered", "PNG, 256 colours, dithered", "image/png", ".png", 8, nullptr, readByStb,
         writePng256Dithered},
        {"png-16", "PNG, 16 colours", "image/png", ".png", 4, nullptr, readByStb, writePng16},
        {"png-16-dithered", "PNG, 16 colours, dithered", "image/png", ".png", 4, nullptr, readByStb,
         writePng16Dithered},
        {"png-grey", "PNG, grey", "image/png", ".png", 8, nullptr, readByStb, writePngGrey},
        {"png-grey-4", "PNG, 16 greys", "image/png", ".png", 4, nullptr, readByStb, writePngGrey4},
        {"tga-16", "TGA, 5-5-5-1", "image/x-tga", ".tga", 16, nullptr, readTga, writeTga16},
        {"tga-16-dithered", "TGA, 5-5-5-1, dithered", "image/x-tga", ".tga", 16, nullptr, readTga,
         writeTga16Dithered},
        {"tga", "TGA", "image/x-tga", ".tga", 32, tgaFacts, readTga, writeTga},
    };
    return formats;
}

const PictureFormat* pictureFormatOf(std::string_view bytes, PictureFacts* facts) {
    for (const PictureFormat& format : allPictureFormats())
        if (const auto found = format.facts ? format.facts(bytes) : std::nullopt) {
            if (facts) *facts = *found;
            return &format;
        }
    return nullptr;
}

bool isPictureFile(std::string_view name) {
    const std::string ending = lowerCase(std::filesystem::path(name).extension().string());
    return ending == ".jpeg" || std::ranges::any_of(allPictureFormats(), [&](const PictureFormat& format) {
               return format.extension == ending;
           });
}

const PictureFormat& pictureFormat(std::string_view id) {
    for (const PictureFormat& format : allPictureFormats())
        if (format.id == id) return format;
    throw Error(fmt::format("there is no kind of picture \"{}\"", id), {},
                "Use one of " + inARow(allPictureFormats(), &PictureFormat::id) + ".");
}

} // namespace zl::texture
