#pragma once
#include "core/platform/sheet.h"

namespace zl::platform {

/// Reads `[[evidence]]`, `[[answer]]` and `[[log]]`: what is known from the game itself. Throws Error with
/// file and line.
void readKnown(TableReader& root, const std::filesystem::path& file, const Vocabulary& words, Sheet& sheet);

// The same as sections of a sheet's text, for SheetText::add().
std::string evidenceSection(const SheetEvidence& known);
std::string answerSection(const GameAnswer& answer);
std::string logSection(const LogPattern& pattern);

} // namespace zl::platform
