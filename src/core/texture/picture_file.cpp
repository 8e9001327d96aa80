#include "core/texture/picture_file.h"

#include "core/base/error.h"
#include "core/texture/jpeg_turn.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

namespace zl::texture {

std::shared_ptr<const Image> pictureFromBytes(std::string name, std::string bytes) {
    constexpr int largestEdge = 32768;
    constexpr double mostPixels = 1 << 28; // 1 GB once they are decoded
    PictureFacts facts;
    const PictureFormat* format = pictureFormatOf(bytes, &facts);
    if (!format) throw Error("is not a picture that can be read", name, "Save it as PNG or JPEG.");
    if (facts.width < 1 || facts.height < 1 || facts.width > largestEdge || facts.height > largestEdge ||
        double(facts.width) * facts.height > mostPixels)
        throw Error(fmt::format("claims to be {} by {} pixels", facts.width, facts.height), name,
                    "Pictures up to 32768 pixels an edge, and 268 million in all, can be read.");
    if (format->id == "jpeg")
        if (const int turn = jpegTurn(bytes); turn > 1) { // written anew as it is meant to be seen
            const Pixels seen = shownTurned(format->read(bytes), turn);
            bytes = format->write(seen, false, PixelKind::Colours);
            facts.width = seen.width, facts.height = seen.height;
        }
    auto image = std::make_shared<Image>();
    image->width = facts.width, image->height = facts.height, image->channels = facts.channels;
    image->format = format->id;
    image->name = std::move(name);
    image->encoded = std::move(bytes);
    return image;
}

std::shared_ptr<const Image> pictureFromPixels(std::string name, Pixels pixels, bool alpha) {
    auto image = std::make_shared<Image>();
    image->name = std::move(name);
    image->format = "png";
    image->width = pixels.width, image->height = pixels.height, image->channels = alpha ? 4 : 3;
    image->pixels = std::make_shared<const Pixels>(std::move(pixels));
    return image;
}

Pixels decode(const Image& image) {
    if (image.pixels) return *image.pixels;
    try {
        return pictureFormat(image.format).read(image.encoded);
    } catch (const Error& error) {
        throw Error(error.what(), image.name, error.mend());
    }
}

std::string encodePng(const Pixels& pixels, bool withAlpha) {
    return writePng(pixels, withAlpha);
}

} // namespace zl::texture
