// How much of a world's memory a piece takes, where worlds have a budget: the piece itself whole, every copy
// of it only its place.
#include "core/platform/rules/all_rules.h"

#include "core/platform/cost.h"
#include "core/texture/picture_memory.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::platform {

Finding measureMemory(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most-megabytes", 0) * 1e6, copy = rule.limit("copy-bytes", 0);
    const int edge = int(std::min(rule.limit("picture-edge", 0), 32768.0));
    std::size_t copies = 0;
    double bytes = meshMemory(m.model(), &copies);
    for (const int image : usedImages(m.model())) {
        const Image& picture = *m.model().images[image];
        bytes += texture::memoryOf(texture::shrunkTo({picture.width, picture.height}, edge));
    }
    bytes += double(copies) * copy;
    Finding finding = atMostBytes(bytes, most);
    const double fill = bytes > 0 ? std::floor(most / bytes) : 0;
    finding.note = fmt::format("It takes about {}{}", showBytes(bytes),
                               fill >= 2 ? fmt::format(", so {} such pieces fill it; a copy takes {}",
                                                       showNumber(fill, 0), showBytes(copy))
                                         : "");
    return finding;
}

} // namespace zl::platform
