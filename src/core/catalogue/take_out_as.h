#pragma once
#include "core/catalogue/catalogue.h"

namespace zl::catalogue {

/// A name for each entry by a pattern: `{title}`, `{code}`, `{pack}`, `{number}` stand for what the entry
/// has,
/// `{item}` for its code without a prefix; all else is taken as it is. Each name is given once, as files have
/// it on every system; twins get numbers. An empty pattern is "{title}".
std::vector<std::string> namesBy(const std::string& pattern, const std::vector<const Entry*>& entries,
                                 const std::vector<std::string>& prefixes);

/// Writes each entry's item, with all that it refers to, as a package NAME.rowpackage into `folder`, which is
/// made when it is missing; nothing there is written over. Each file is whole or not there, also after
/// Cancel. Comes back with the files, in order. Throws Error for an entry without resources, Refused where
/// the disk refuses.
std::vector<std::filesystem::path> takeOutAs(const std::filesystem::path& file,
                                             const std::vector<Entry>& entries,
                                             const std::vector<std::string>& names,
                                             const std::filesystem::path& folder, const files::Limits& limits,
                                             const Progress& progress = {});

} // namespace zl::catalogue
