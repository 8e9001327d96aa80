#pragma once
#include "core/platform/sheet_files.h"

namespace zl::deliver {

/// `text` (a table of the section's kind; empty for one that is not there yet) with `entries` in it: those of
/// the same key are replaced, the others go where the order by key wants them if the table is in such an
/// order, else to the end. What others wrote stays letter for letter (in CSV) or element for element (in XML
/// and JSON). Throws Error for a table, or an entry, that cannot be read, or that has no key.
std::string tableWith(const std::string& text, const platform::TableOutput& table,
                      const std::vector<std::string>& entries, const std::string& where);

/// The same without the entries of these keys.
std::string tableWithout(const std::string& text, const platform::TableOutput& table,
                         const std::vector<std::string>& keys, const std::string& where);

/// The keys of entries, as the table would have them.
std::vector<std::string> keysOf(const platform::TableOutput& table, const std::vector<std::string>& entries,
                                const std::string& where);

/// All entries of a table, each with its key, as tableWith() would take them; those without a key are left
/// out.
std::vector<std::pair<std::string, std::string>>
entriesIn(const std::string& text, const platform::TableOutput& table, const std::string& where);

} // namespace zl::deliver
