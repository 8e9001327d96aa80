#pragma once
#include "core/platform/sheet.h"

#include <algorithm>

namespace zl::platform {

/// Bytes that a picture may take on a platform which holds pictures in formats of few bytes
/// (texture/small_formats.h) and shows them pixel by pixel: one with a rule `texture-bytes`. Nothing for
/// others.
inline std::optional<std::size_t> smallPictureBytes(const Sheet& sheet) {
    std::optional<std::size_t> least;
    for (const RuleSpec* rule : sheet.rulesOf("texture-bytes")) {
        const auto most = std::size_t(std::clamp(rule->limit("most", 0), 0.0, 1e9));
        least = std::min(least.value_or(most), most);
    }
    return least;
}

} // namespace zl::platform
