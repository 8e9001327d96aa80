#include "core/texture/picture_file.h"

#include "core/base/error.h"
#include "core/base/file_set.h"

#include <png.h>
#include <stb_image.h>

#include <fmt/format.h>

namespace zl::texture {

namespace {

constexpr int largestEdge = 32768;

std::string mimeOf(std::string_view bytes) {
    if (bytes.starts_with("\x89PNG")) return "image/png";
    if (bytes.starts_with("\xff\xd8")) return "image/jpeg";
    if (bytes.starts_with("BM")) return "image/bmp";
    return "image/x-tga";
}

const stbi_uc* raw(std::string_view bytes) {
    return reinterpret_cast<const stbi_uc*>(bytes.data());
}

} // namespace

std::shared_ptr<const Image> pictureFromBytes(std::string name, std::string bytes) {
    auto image = std::make_shared<Image>();
    if (bytes.size() > (1u << 30) || !stbi_info_from_memory(raw(bytes), static_cast<int>(bytes.size()),
                                                            &image->width, &image->height, &image->channels))
        throw Error("is not a picture that can be read", name, "Save it as PNG or JPEG.");
    if (image->width < 1 || image->height < 1 || image->width > largestEdge || image->height > largestEdge)
        throw Error(fmt::format("claims to be {} by {} pixels", image->width, image->height), name,
                    "Pictures up to 32768 pixels an edge can be read.");
    image->mime = mimeOf(bytes);
    image->name = std::move(name);
    image->encoded = std::move(bytes);
    return image;
}

std::shared_ptr<const Image> readPicture(const std::filesystem::path& path) {
    return pictureFromBytes(path.filename().string(), readText(path, 1u << 30));
}

Pixels decode(const Image& image) {
    Pixels pixels;
    int channels = 0;
    stbi_uc* decoded = stbi_load_from_memory(raw(image.encoded), static_cast<int>(image.encoded.size()),
                                             &pixels.width, &pixels.height, &channels, 4);
    if (!decoded) throw Error("is broken", image.name, "Export or copy the picture again.");
    pixels.rgba.assign(decoded, decoded + std::size_t(4) * pixels.width * pixels.height);
    stbi_image_free(decoded);
    return pixels;
}

std::string encodePng(const Pixels& pixels, bool withAlpha) {
    std::string out;
    std::vector<std::uint8_t> row(std::size_t(3) * pixels.width); // before setjmp, which unwinds nothing
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png ? png_create_info_struct(png) : nullptr;
    if (!info || setjmp(png_jmpbuf(png))) {
        png_destroy_write_struct(&png, &info);
        throw Error("a picture could not be packed", {}, "Make some memory free, then try again.");
    }
    png_set_write_fn(
        png, &out,
        [](png_structp to, png_bytep bytes, std::size_t size) {
            static_cast<std::string*>(png_get_io_ptr(to))->append(reinterpret_cast<const char*>(bytes), size);
        },
        nullptr);
    png_set_IHDR(png, info, png_uint_32(pixels.width), png_uint_32(pixels.height), 8,
                 withAlpha ? PNG_COLOR_TYPE_RGB_ALPHA : PNG_COLOR_TYPE_RGB, PNG_INTERLACE_NONE,
                 PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    png_set_compression_level(png, 4); // half the time of 6 for a fifth more bytes
    png_write_info(png, info);
    for (int y = 0; y < pixels.height; ++y) {
        const std::uint8_t* from = &pixels.rgba[std::size_t(4) * y * pixels.width];
        if (!withAlpha)
            for (int x = 0; x < pixels.width; ++x)
                for (int k = 0; k < 3; ++k) row[std::size_t(3) * x + k] = from[std::size_t(4) * x + k];
        png_write_row(png, withAlpha ? from : row.data());
    }
    png_write_end(png, info);
    png_destroy_write_struct(&png, &info);
    return out;
}

} // namespace zl::texture
