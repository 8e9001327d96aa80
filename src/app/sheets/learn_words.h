#pragma once
#include "core/learn/property.h"

#include <QString>

namespace zl::app {

/// What was seen of a property: "12 to 10 350, middle 288", "19 Y, 4 Z".
QString seenWords(const learn::Property& property);
/// Whether a sheet with it is another than without.
bool saysAnything(const learn::Property& property);
/// What would stand in the sheet, in a few words.
QString offeredWords(const learn::Offer& offer);

} // namespace zl::app
