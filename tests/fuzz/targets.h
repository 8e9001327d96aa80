#pragma once
#include <string_view>
#include <vector>

namespace fuzz {

/// Something that takes bytes from outside. It may throw zl::Error and nothing else.
struct Target {
    std::string_view name;
    void (*run)(std::string_view bytes);
};
const std::vector<Target>& allTargets();

} // namespace fuzz
