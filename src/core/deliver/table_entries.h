#pragma once
#include "core/platform/sheet_files.h"

#include <optional>

namespace zl::deliver {

/// `text` (a table of the section's kind; empty for one that is not there yet) with `entries` in it: those of
/// the same key are replaced, the others go where the order by key wants them if the table is in such an
/// order, else to the end. What others wrote stays letter for letter (in CSV) or element for element (in XML
/// and JSON); a CSV's own columns and separator are kept, and entries put into them.
///
/// Where the section has `numbers`, an entry keeps the number that its key has in the table, or had in
/// `earlier` (the same table at another time), or that it brings, if nobody else has that one; others get the
/// least that is free.
///
/// Throws Error for a table, or an entry, that cannot be read, or that has no key, and where no number is
/// left.
std::string tableWith(const std::string& text, const platform::TableOutput& table,
                      const std::vector<std::string>& entries, const std::string& where,
                      const std::string& earlier = {});

/// The same without the entries of these keys.
std::string tableWithout(const std::string& text, const platform::TableOutput& table,
                         const std::vector<std::string>& keys, const std::string& where);

struct TableEntry {
    std::string key, text;     ///< as tableWith() would take it
    std::optional<int> number; ///< where the section has `numbers`
};

/// All entries of a table; those without a key are left out.
std::vector<TableEntry> entriesIn(const std::string& text, const platform::TableOutput& table,
                                  const std::string& where);

} // namespace zl::deliver
