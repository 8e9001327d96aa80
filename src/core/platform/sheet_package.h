#pragma once
#include "core/base/file_set.h"
#include "core/platform/sheet.h"

namespace zl::platform {

/// The ending of a sheet with all that belongs to it in one file.
inline constexpr std::string_view sheetPackageEnding = ".zestsheet";

/// The sheet's file and the templates that it names, with `others` (yardsticks, notes: names below the
/// package, and bytes), as one archive. Throws Error when one of its files cannot be read.
std::string packedSheet(const Sheet& sheet, const std::vector<OutFile>& others);

/// What a package holds: the sheet as `sheet.toml` and the rest below it. Throws Error for what is none.
std::vector<OutFile> unpackedSheet(const std::filesystem::path& package);

/// The sheet that a package's files hold. Throws Error for one that cannot be read.
Sheet sheetIn(const std::vector<OutFile>& files, const Vocabulary& words);

/// Puts a package's files into `platforms`, in a folder of its sheet's id, all or none; what was there of an
/// earlier edition goes. Returns the sheet's file. Throws Error for a sheet that cannot be read.
std::filesystem::path takeSheet(const std::vector<OutFile>& files, const std::filesystem::path& platforms,
                                const Vocabulary& words);

/// What changed from one edition of a sheet to the next, in sentences: limits with both numbers, rules that
/// came and went, unit and axes, files. Empty where nothing did that a delivery or a verdict rests on.
std::vector<std::string> differencesOf(const Sheet& before, const Sheet& after);

} // namespace zl::platform
