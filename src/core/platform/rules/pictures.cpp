// Rules about pictures: their longest edge, and sides that are powers of two.
#include "core/platform/rules/all_rules.h"

#include <fmt/format.h>

#include <algorithm>
#include <bit>

namespace zl::platform {

namespace {

std::vector<int> materialsShowing(const Model& model, const std::vector<int>& images) {
    std::vector<int> out;
    for (const int index : usedMaterials(model)) {
        if (index < 0) continue;
        if (std::ranges::any_of(model.materials[index].pictures, [&](const PictureUse& use) {
                return use && std::ranges::find(images, use.image) != images.end();
            }))
            out.push_back(index);
    }
    return out;
}

} // namespace

Finding measurePictureEdge(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 0);
    std::vector<int> over;
    int edge = 0;
    const auto images = usedImages(m.model());
    for (const int image : images) {
        const int longest = std::max(m.model().images[image]->width, m.model().images[image]->height);
        edge = std::max(edge, longest);
        if (longest > most) over.push_back(image);
    }
    Finding finding = atMost(edge, most, "pixel", "pixels");
    finding.measured = images.empty() ? "no picture" : showNumber(edge, 0);
    finding.limit = fmt::format("of {} px", showNumber(most, 0));
    finding.note =
        images.empty() ? "No picture is used"
        : over.empty()
            ? fmt::format("The largest of {} is {} px", showCount(long(images.size()), "picture", "pictures"),
                          showNumber(edge, 0))
            : fmt::format("{} larger than {} px",
                          over.size() == 1 ? "1 picture is" : fmt::format("{} pictures are", over.size()),
                          showNumber(most, 0));
    finding.materials = materialsShowing(m.model(), over);
    return finding;
}

Finding measurePowerOfTwo(const Measures& m, const Sheet&, const RuleSpec&) {
    std::vector<int> odd;
    for (const int image : usedImages(m.model())) {
        const Image& picture = *m.model().images[image];
        if (!std::has_single_bit(unsigned(picture.width)) || !std::has_single_bit(unsigned(picture.height)))
            odd.push_back(image);
    }
    Finding finding;
    finding.holds = odd.empty();
    finding.value = double(odd.size());
    finding.measured = odd.empty() ? "all" : fmt::format("{} not", odd.size());
    finding.limit = "all sides 2, 4, 8 …";
    finding.note = odd.empty()
                       ? "All picture sides are powers of two"
                       : fmt::format("\"{}\" is {} by {} px", m.model().images[odd[0]]->name,
                                     m.model().images[odd[0]]->width, m.model().images[odd[0]]->height);
    finding.materials = materialsShowing(m.model(), odd);
    return finding;
}

} // namespace zl::platform
