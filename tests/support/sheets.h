#pragma once
#include "core/platform/sheet.h"

/// A sheet that ships, by its id.
inline std::shared_ptr<const zl::platform::Sheet> sheet(const std::string& id) {
    return zl::platform::sheetNamed(zl::platform::loadSheets(), id);
}
