// Pictures of every kind that is written, as a reader that is not ours reads them.
#include "command_line.h"

#include "core/texture/picture_format.h"

#include <fmt/format.h>

using namespace zl;

namespace {

/// Gentle slopes in each channel: what blocks and palettes hold well.
Pixels slopes(int width, int height) {
    Pixels out{width, height, {}};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            out.rgba.insert(out.rgba.end(), {std::uint8_t(60 + 4 * x), std::uint8_t(40 + 3 * y),
                                             std::uint8_t(90 + 2 * x), std::uint8_t(255 - 6 * y)});
    return out;
}

} // namespace

TEST_CASE("pictures of every kind are read elsewhere as they were written") {
    const Pixels from = slopes(24, 20);
    const TemporaryFolder folder;
    std::string files;
    struct Expected {
        std::string name;
        std::string_view id;
        bool alpha;
    };
    std::vector<Expected> expected;
    for (const auto& format : texture::allPictureFormats())
        for (const bool alpha : {false, true}) {
            const std::string name =
                fmt::format("{}-{}{}", format.id, alpha ? "alpha" : "solid", format.extension);
            files += " " + quoted(folder.write(name, format.write(from, alpha, texture::PixelKind::Colours)));
            expected.push_back({name, format.id, alpha});
        }
    const auto ran =
        run("/usr/bin/python3 " +
            quoted(std::filesystem::path(ZEST_LOOM_ROOT) / "tests/support/read_pictures.py") + files);
    REQUIRE(ran.code == 0);
    const auto read = ran.json();
    REQUIRE(read.size() == expected.size());
    for (const auto& [name, id, alpha] : expected) {
        CAPTURE(name);
        const auto& seen = read.at(name);
        CHECK(seen["size"] == nlohmann::json({24, 20}));
        const std::string mode = seen["mode"];
        const bool keepsAlpha = alpha && id != "jpeg" && id != "dds-bc4" && id != "dds-bc5";
        if (!keepsAlpha && !id.starts_with("dds-bc") && id != "dds")
            CHECK(mode.find('A') == std::string::npos); // no channel of it
        const std::vector<int> rgba = seen["rgba"];
        const auto& format = texture::pictureFormat(id);
        const Pixels ours = format.read(format.write(from, alpha, texture::PixelKind::Colours));
        int apart = 0, off = 0;
        for (std::size_t p = 0; p < rgba.size(); ++p) {
            const std::size_t channel = p % 4;
            if (id == "dds-bc4" && channel > 0) continue; // one channel; readers fill the others as they like
            if (id == "dds-bc5" && channel > 1) continue;
            apart = std::max(apart, std::abs(rgba[p] - int(ours.rgba[p])));
            if (channel < 3) off = std::max(off, std::abs(rgba[p] - int(from.rgba[p])));
        }
        // Blocks are unpacked by each reader in its own rounding.
        const bool coarse = id.starts_with("dds") || id == "jpeg" || id.starts_with("tga-16");
        if (id.starts_with("tga-16") && alpha) {
            CHECK(mode.size() > 0); // readers differ on the one bit of alpha
        } else {
            CHECK(apart <= (coarse ? 8 : 0));
        }
        if (id == "png" || id == "bmp" || id == "tga" || id == "dds-plain") CHECK(off == 0);
        if (id.starts_with("dds-bc") && id != "dds-bc1") CHECK(off <= 16);
    }
}
