#pragma once
#include "core/texture/resized.h"

#include <optional>
#include <span>
#include <string_view>

namespace zl::texture {

/// What a picture's bytes say of it before it is decoded.
struct PictureFacts {
    int width = 0, height = 0, channels = 0;
};

/// A kind of picture file: one file for its reading and writing, one line in picture_formats.cpp.
struct PictureFormat {
    std::string_view id;        ///< "png"
    std::string_view name;      ///< "PNG"
    std::string_view mime;      ///< "image/png"
    std::string_view extension; ///< with its dot, as files are written
    double bitsOnCard = 32;     ///< a pixel, as graphics cards hold it
    /// What bytes of this kind say; nothing for bytes of another, or when they are broken. Null for a way of
    /// writing a kind that another line reads.
    std::optional<PictureFacts> (*facts)(std::string_view bytes) = nullptr;
    /// 8-bit RGBA, the first row on top. Throws Error for broken bytes.
    Pixels (*read)(std::string_view bytes) = nullptr;
    /// Without `alpha` the fourth channel is left out where the format can. Where smaller levels are written,
    /// they are made as pixels of `kind` are.
    std::string (*write)(const Pixels& pixels, bool alpha, PixelKind kind) = nullptr;
};

std::span<const PictureFormat> allPictureFormats();
/// The one whose facts() knows the bytes; null when none does.
const PictureFormat* pictureFormatOf(std::string_view bytes, PictureFacts* facts = nullptr);
/// Whether a file of this name is a picture, by its ending.
bool isPictureFile(std::string_view name);
/// By id; throws Error listing those there are.
const PictureFormat& pictureFormat(std::string_view id);

// Readers and writers, each in a file of its own.
std::optional<PictureFacts> pngFacts(std::string_view bytes);
std::optional<PictureFacts> jpegFacts(std::string_view bytes);
std::optional<PictureFacts> bmpFacts(std::string_view bytes);
std::optional<PictureFacts> tgaFacts(std::string_view bytes);
std::optional<PictureFacts> ddsFacts(std::string_view bytes);
Pixels readByStb(std::string_view bytes);
Pixels readDds(std::string_view bytes);
std::string writePng(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writeJpeg(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours); ///< never alpha
std::string writeBmp(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
/// Pictures of 16 bits a pixel whose first bit is alpha, which other readers drop; nothing for another
/// picture or when it is cut.
bool readsTga16(std::string_view bytes);
std::optional<Pixels> readTga16(std::string_view bytes);
Pixels readTga(std::string_view bytes);
std::string writeTga16(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writeTga16Dithered(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writePng256(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writePng256Dithered(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writePng16(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writePng16Dithered(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writePngGrey(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writePngGrey4(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writeTga(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
// Blocks of 4 by 4 and all smaller levels down to one pixel: BC1, with alpha BC3; or as their names say.
std::string writeDds(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writeDdsBc1(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writeDdsBc3(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);
std::string writeDdsBc4(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Numbers); ///< red alone
std::string writeDdsBc5(const Pixels& pixels, bool alpha,
                        PixelKind kind = PixelKind::Normals); ///< red, green
std::string writeDdsPlain(const Pixels& pixels, bool alpha, PixelKind kind = PixelKind::Colours);

} // namespace zl::texture
