#include "core/base/version.h"

#include "zest_loom_version.h" // made by cmake/version.cmake

namespace zl {

std::string_view programVersion() {
    return ZEST_LOOM_VERSION;
}

} // namespace zl
