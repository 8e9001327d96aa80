#pragma once
#include <string>
#include <vector>

namespace zl::platform {

/// What a platform's world says of the things in it.
struct SheetWorld {
    std::vector<std::string> traits; ///< words that a thing may have there
    int collisionFiles = 0;          ///< things with a body of their own that it holds; 0 for any number

    bool operator==(const SheetWorld&) const = default;
};

} // namespace zl::platform
