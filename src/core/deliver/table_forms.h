#pragma once
#include "core/base/csv_table.h"
#include "core/platform/sheet_files.h"

#include <nlohmann/json.hpp>
#include <pugixml.hpp>

#include <optional>
#include <string>
#include <vector>

namespace zl::deliver {

/// Something that stands in a table, in order: an entry with its key, or what is none (a comment) without.
template <class Entry>
struct Keyed {
    std::string key;
    Entry entry;
};

// Tables by how they are written. Each is read once, as a row of entries, and written once from another row.
// All throw Error with `where` for a table, or an entry, that cannot be read.

/// Lines of a table of text. Lines that stay are letter for letter what they were.
class CsvForm {
public:
    using Entry = std::string; ///< the line, with its end if it has one
    CsvForm(const std::string& text, const platform::TableOutput& table, const std::string& where);

    std::vector<Keyed<Entry>> there() const;
    /// An entry as the section writes it, in the columns that this table has.
    Keyed<Entry> fresh(const std::string& entry) const;
    std::optional<int> numberOf(const Entry& entry) const;
    void setNumber(Entry& entry, int number) const;
    static std::string textOf(const Entry& entry) { return entry; }
    std::string written(const std::vector<Keyed<Entry>>& all);

private:
    CsvTable::Row rowOf(const std::string& head, const std::string& line) const;

    const platform::TableOutput& said_;
    const std::string& where_;
    std::string text_, head_; ///< all of it, and its first line
    CsvTable table_;
    std::optional<CsvTable> own_; ///< the section's header, where the table has another
    int key_ = -1, number_ = -1;
};

/// Elements of an XML file below the element that `under` leads to.
class XmlForm {
public:
    using Entry = pugi::xml_node;
    XmlForm(const std::string& text, const platform::TableOutput& table, const std::string& where);

    std::vector<Keyed<Entry>> there() const;
    Keyed<Entry> fresh(const std::string& entry);
    std::optional<int> numberOf(const Entry& entry) const;
    void setNumber(Entry& entry, int number) const;
    static std::string textOf(const Entry& entry);
    std::string written(const std::vector<Keyed<Entry>>& all);

private:
    std::string keyOf(const pugi::xml_node& node) const;

    const platform::TableOutput& said_;
    const std::string& where_;
    pugi::xml_document document_, fresh_;
    pugi::xml_node list_;
};

/// Members of a list in a JSON file.
class JsonForm {
public:
    using Entry = nlohmann::ordered_json;
    JsonForm(const std::string& text, const platform::TableOutput& table, const std::string& where);

    std::vector<Keyed<Entry>> there() const;
    Keyed<Entry> fresh(const std::string& entry) const;
    std::optional<int> numberOf(const Entry& entry) const;
    void setNumber(Entry& entry, int number) const;
    static std::string textOf(const Entry& entry);
    std::string written(const std::vector<Keyed<Entry>>& all);

private:
    std::string keyOf(const Entry& entry) const;

    const platform::TableOutput& said_;
    const std::string& where_;
    Entry root_;
    Entry* list_ = nullptr;
};

} // namespace zl::deliver
