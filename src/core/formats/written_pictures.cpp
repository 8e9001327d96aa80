#include "core/formats/written_pictures.h"

#include <fmt/format.h>

#include <cmath>
#include <set>

namespace zl::formats {

WrittenPictures writtenPictures(const Model& model, const std::string& folder) {
    WrittenPictures out;
    std::set<std::string> taken;
    for (const int image : usedImages(model)) {
        const Image& picture = *model.images[image];
        const std::string extension = picture.mime == "image/png"    ? ".png"
                                      : picture.mime == "image/jpeg" ? ".jpg"
                                      : picture.mime == "image/bmp"  ? ".bmp"
                                                                     : ".tga";
        const std::string base = fileNameFrom(std::filesystem::path(picture.name).stem().string());
        std::string name = base + extension;
        for (int n = 2; !taken.insert(name).second; ++n) name = fmt::format("{}-{}{}", base, n, extension);
        out.names[image] = folder + name;
        out.files.push_back({folder + name, picture.encoded});
    }
    return out;
}

float toSrgb(float linear) {
    return linear <= 0.0031308f ? 12.92f * linear : 1.055f * std::pow(linear, 1 / 2.4f) - 0.055f;
}
float fromSrgb(float encoded) {
    return encoded <= 0.04045f ? encoded / 12.92f : std::pow((encoded + 0.055f) / 1.055f, 2.4f);
}

} // namespace zl::formats
