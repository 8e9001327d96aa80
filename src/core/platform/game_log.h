#pragma once
#include "core/platform/sheet.h"

namespace zl::platform {

/// A line of a game's log, in words for people where its sheet knows it.
struct LogLine {
    std::size_t line = 0;                ///< from 1
    std::string text;                    ///< as the log has it
    const LogPattern* pattern = nullptr; ///< of the sheet; null for a line that nobody knows
    std::string says;                    ///< the pattern's words with what its brackets matched
};

/// The lines of a log that say something: those that the sheet knows, and others; empty ones are left out. At
/// most the last 20 000 lines are looked at.
std::vector<LogLine> readLog(std::string_view text, const Sheet& sheet);

/// The end of a log on the disk, as UTF-8 from the beginning of a line on, while its game may be writing it:
/// what is there now. Knows UTF-16 by its mark. Throws Error when it cannot be read.
std::string endOfLog(const std::filesystem::path& file, std::size_t mostBytes = 4u << 20);

/// A part of a line, in bytes.
struct Range {
    std::size_t from = 0, to = 0;
};
/// The pattern that matches a line with anything in the place of each part: what changes from one time to the
/// next. Parts that touch or overlap are one.
std::string patternFor(std::string_view line, std::vector<Range> changing);
/// Parts of a line that look as if they changed: numbers, times, names in quotation marks, paths.
std::vector<Range> changingIn(std::string_view line);

} // namespace zl::platform
