#include "core/texture/picture_file.h"

#include "core/base/error.h"
#include "core/base/file_set.h"

#include <stb_image.h>
#include <stb_image_write.h>

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
    const auto append = [](void* context, void* bytes, int size) {
        static_cast<std::string*>(context)->append(static_cast<const char*>(bytes),
                                                   static_cast<std::size_t>(size));
    };
    if (withAlpha) {
        stbi_write_png_to_func(append, &out, pixels.width, pixels.height, 4, pixels.rgba.data(),
                               4 * pixels.width);
        return out;
    }
    std::vector<std::uint8_t> rgb;
    rgb.reserve(pixels.rgba.size() / 4 * 3);
    for (std::size_t i = 0; i < pixels.rgba.size(); i += 4)
        rgb.insert(rgb.end(), pixels.rgba.begin() + i, pixels.rgba.begin() + i + 3);
    stbi_write_png_to_func(append, &out, pixels.width, pixels.height, 3, rgb.data(), 3 * pixels.width);
    return out;
}

} // namespace zl::texture
