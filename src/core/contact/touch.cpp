#include "core/contact/touch.h"

#include <algorithm>

namespace zl::contact {

const SurfaceKind* Touch::surface(std::string_view name) const {
    const auto found = std::ranges::find(surfaces, name, &SurfaceKind::name);
    return found == surfaces.end() ? nullptr : &*found;
}

std::string Touch::holderFor(const std::string& name) const {
    std::string out = holderName;
    if (const std::size_t at = out.find("{name}"); at != std::string::npos) out.replace(at, 6, name);
    return out;
}

} // namespace zl::contact
