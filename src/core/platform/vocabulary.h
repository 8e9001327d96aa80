#pragma once
#include <string_view>
#include <vector>

namespace zl::platform {

/// The words that a sheet may use and that later layers know: a sheet with another is refused when it is
/// read, and not when somebody first needs what it means. A list that is empty is not checked.
struct Vocabulary {
    std::vector<std::string_view> steps, deliverables, standIns, formats, aspects, pictureFormats;
};

} // namespace zl::platform
