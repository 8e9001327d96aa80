// The rule about what one picture takes in the memory of a small machine.
#include "core/platform/rules/all_rules.h"

#include "core/texture/picture_cache.h"
#include "core/texture/small_formats.h"

#include <fmt/format.h>

#include <algorithm>
#include <bit>

namespace zl::platform {

Finding measureTextureBytes(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const auto most = std::size_t(std::max(0.0, rule.limit("most", 0)));
    const Model& model = m.model();
    std::size_t worst = 0, over = 0, pictures = 0;
    std::string name, held;
    Finding finding;
    for (const int index : usedMaterials(model)) {
        if (index < 0) continue;
        const int number = model.materials[std::size_t(index)].image(PictureRole::Colour);
        if (number < 0) continue;
        const auto& image = model.images[std::size_t(number)];
        // One that is far too large for any format needs no looking at its pixels.
        auto format = texture::SmallFormat::Palette16;
        if (texture::bytesHeld(format, image->width, image->height) <= most)
            format = texture::smallestFor(*texture::pixelsOf(image));
        else
            format = texture::SmallFormat::Colour16;
        const std::size_t bytes = texture::bytesHeld(format, image->width, image->height);
        ++pictures;
        if (bytes > most) ++over, finding.materials.push_back(index);
        if (bytes > worst) worst = bytes, name = image->name, held = texture::infoOf(format).name;
    }
    finding.value = double(worst);
    finding.holds = worst <= most;
    finding.share = most > 0 ? double(worst) / double(most) : 0;
    finding.canBeTight = false;
    finding.measured = pictures == 0 ? "no picture" : fmt::format("{} bytes", showNumber(double(worst), 0));
    finding.limit = fmt::format("of {}", showNumber(double(most), 0));
    finding.note =
        pictures == 0 ? "No picture is used"
        : over == 0
            ? fmt::format("The largest is \"{}\", held as {}", name, held)
            : fmt::format("{}; the largest is \"{}\"",
                          showCount(long(over), "material wears a larger one", "materials wear larger ones"),
                          name);
    return finding;
}

} // namespace zl::platform
