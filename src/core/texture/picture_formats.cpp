#include "core/texture/picture_format.h"

#include "core/base/error.h"
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
        {"tga", "TGA", "image/x-tga", ".tga", 32, tgaFacts, readByStb, writeTga},
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

const PictureFormat& pictureFormat(std::string_view id) {
    for (const PictureFormat& format : allPictureFormats())
        if (format.id == id) return format;
    throw Error(fmt::format("there is no kind of picture \"{}\"", id), {},
                "Use one of " + inARow(allPictureFormats(), &PictureFormat::id) + ".");
}

} // namespace zl::texture
