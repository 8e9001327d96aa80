#pragma once
#include "core/model/model.h"

namespace zl::formats {

/// What an interchange file says of its unit and up axis in words that the reading library passes over:
/// COLLADA's <unit meter> and <up_axis>, the unit attributes of AMF and of the model part in a 3MF archive.
/// Anything not said is what the format's specification takes for granted, or marked as assumed where it says
/// nothing. `extension` is lower case with its dot. Never throws: an unreadable file says nothing.
SourceFrame declaredFrame(std::string_view bytes, const std::string& extension);

} // namespace zl::formats
