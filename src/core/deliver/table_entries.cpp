#include "core/deliver/table_entries.h"

#include "core/base/csv_table.h"
#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>

#include <algorithm>
#include <charconv>
#include <optional>
#include <sstream>

namespace zl::deliver {

namespace {

using platform::TableOutput;
using Json = nlohmann::ordered_json;

std::optional<double> asNumber(std::string_view text) {
    double value = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (problem != std::errc() || end != text.data() + text.size()) return std::nullopt;
    return value;
}

/// Numbers by what they are, other keys letter by letter.
bool comesBefore(const std::string& a, const std::string& b) {
    const auto x = asNumber(a), y = asNumber(b);
    return x && y ? *x < *y : a < b;
}

/// Where a key goes among those that are there: before the first that comes behind it, if they are in order.
std::size_t placeFor(const std::string& key, const std::vector<std::string>& keys) {
    if (!std::ranges::is_sorted(keys, comesBefore)) return keys.size();
    return std::size_t(std::ranges::upper_bound(keys, key, comesBefore) - keys.begin());
}

/// The steps of "a/b/c".
std::vector<std::string> stepsOf(const std::string& under) {
    std::vector<std::string> out;
    std::stringstream in(under);
    for (std::string step; std::getline(in, step, '/');)
        if (!step.empty()) out.push_back(step);
    return out;
}

[[noreturn]] void refuse(const std::string& what, const std::string& where, const std::string& mend) {
    throw Error(what, where, mend);
}

// Lines of a table of text. Everything but the lines that change stays letter for letter.

class CsvEntries {
public:
    CsvEntries(const std::string& text, const TableOutput& table, const std::string& where)
        : table_(table), where_(where), text_(text.empty() ? table.header + "\n" : text) {
        read();
    }
    std::string keyOf(const std::string& entry) const {
        const std::string head = text_.substr(0, text_.find('\n'));
        const CsvTable one = readCsv(head + "\n" + entry);
        if (one.rows.size() != 1)
            refuse(fmt::format("the entry is {} lines", one.rows.size()), where_, "Write one line.");
        const std::string key(one.rows[0].at(one.column(lowerCase(table_.key))));
        if (key.empty())
            refuse(fmt::format("the entry has nothing under \"{}\"", table_.key), where_,
                   "Give it what tells it apart.");
        return key;
    }
    void remove(const std::string& key) {
        for (std::size_t i = keys_.size(); i-- > 0;)
            if (keys_[i] == key) {
                text_.erase(starts_[i], starts_[i + 1] - starts_[i]);
                read();
            }
    }
    void add(const std::string& entry) {
        const std::string key = keyOf(entry);
        remove(key);
        const std::size_t at = placeFor(key, keys_);
        std::string line = entry;
        while (!line.empty() && (line.back() == '\n' || line.back() == '\r')) line.pop_back();
        if (at == keys_.size() && !text_.empty() && text_.back() != '\n') text_ += lineEnd_;
        text_.insert(at == keys_.size() ? text_.size() : starts_[at], line + lineEnd_);
        read();
    }
    const std::string& text() const { return text_; }
    std::vector<std::pair<std::string, std::string>> entries() const {
        std::vector<std::pair<std::string, std::string>> out;
        for (std::size_t i = 0; i < keys_.size(); ++i)
            if (!keys_[i].empty())
                out.emplace_back(keys_[i], text_.substr(starts_[i], starts_[i + 1] - starts_[i]));
        return out;
    }

private:
    void read() {
        const CsvTable table = readCsv(text_);
        const int column = table.column(lowerCase(table_.key));
        if (column < 0)
            refuse(fmt::format("the table has no column \"{}\"", table_.key), where_,
                   "Name the column that tells its lines apart.");
        lineEnd_ = table.lineEnd;
        std::vector<std::size_t> lines{0}; // where each begins
        for (std::size_t at = 0; (at = text_.find('\n', at)) != std::string::npos;) lines.push_back(++at);
        keys_.clear(), starts_.clear();
        for (const CsvTable::Row& row : table.rows) {
            keys_.emplace_back(row.at(column));
            starts_.push_back(lines[std::min(row.line - 1, lines.size() - 1)]);
        }
        starts_.push_back(text_.size());
    }

    const TableOutput& table_;
    const std::string& where_;
    std::string text_, lineEnd_;
    std::vector<std::string> keys_;
    std::vector<std::size_t> starts_; ///< of each line in the text, and the text's end
};

// Elements of an XML file below the element that `under` leads to.

class XmlEntries {
public:
    XmlEntries(const std::string& text, const TableOutput& table, const std::string& where)
        : table_(table), where_(where) {
        if (!text.empty()) {
            const auto read = document_.load_buffer(text.data(), text.size(), kept);
            if (!read) refuse(fmt::format("is no XML: {}", read.description()), where_, "Mend it by hand.");
        }
        pugi::xml_node at = document_;
        for (const std::string& step : stepsOf(table.under)) {
            pugi::xml_node next = at.child(step.c_str());
            if (!next) next = at.append_child(step.c_str());
            at = next;
        }
        list_ = at;
    }
    std::string keyOf(const std::string& entry) const {
        pugi::xml_document one;
        return keyOf(parsed(one, entry));
    }
    void remove(const std::string& key) {
        for (pugi::xml_node child = list_.first_child(); child;) {
            const pugi::xml_node next = child.next_sibling();
            if (keyed(child) == key) list_.remove_child(child);
            child = next;
        }
    }
    void add(const std::string& entry) {
        pugi::xml_document one;
        const pugi::xml_node fresh = parsed(one, entry);
        const std::string key = keyOf(fresh);
        remove(key);
        std::vector<std::string> keys;
        std::vector<pugi::xml_node> nodes;
        for (const pugi::xml_node child : list_.children())
            if (const std::string own = keyed(child); !own.empty())
                keys.push_back(own), nodes.push_back(child);
        const std::size_t at = placeFor(key, keys);
        if (at == nodes.size())
            list_.append_copy(fresh);
        else
            list_.insert_copy_before(fresh, nodes[at]);
    }
    std::string text() const {
        std::ostringstream out;
        document_.save(out, "  ", pugi::format_indent);
        return std::move(out).str();
    }
    std::vector<std::pair<std::string, std::string>> entries() const {
        std::vector<std::pair<std::string, std::string>> out;
        for (const pugi::xml_node child : list_.children()) {
            std::ostringstream text;
            child.print(text, "", pugi::format_raw);
            if (std::string key = keyed(child); !key.empty())
                out.emplace_back(std::move(key), std::move(text).str());
        }
        return out;
    }

private:
    static constexpr unsigned kept = pugi::parse_default | pugi::parse_comments | pugi::parse_declaration |
                                     pugi::parse_doctype | pugi::parse_pi;

    pugi::xml_node parsed(pugi::xml_document& one, const std::string& entry) const {
        const auto read = one.load_buffer(entry.data(), entry.size(), kept);
        if (!read || !one.document_element() || one.document_element().next_sibling())
            refuse("the entry is not one element", where_, "Write <name …/> or <name>…</name>.");
        return one.document_element();
    }
    /// An attribute's value, or the text of an element within.
    std::string keyed(const pugi::xml_node& node) const {
        if (const auto attribute = node.attribute(table_.key.c_str())) return attribute.value();
        return node.child(table_.key.c_str()).text().get();
    }
    std::string keyOf(const pugi::xml_node& node) const {
        const std::string key = keyed(node);
        if (key.empty())
            refuse(fmt::format("the entry has no \"{}\"", table_.key), where_,
                   "Give it what tells it apart.");
        return key;
    }

    const TableOutput& table_;
    const std::string& where_;
    pugi::xml_document document_;
    pugi::xml_node list_;
};

// Members of a list, or of an object, in a JSON file.

class JsonEntries {
public:
    JsonEntries(const std::string& text, const TableOutput& table, const std::string& where)
        : table_(table), where_(where) {
        root_ = text.empty() ? Json() : Json::parse(text, nullptr, false);
        if (root_.is_discarded()) refuse("is no JSON", where_, "Mend it by hand.");
        const auto steps = stepsOf(table.under);
        Json* at = &root_;
        for (const std::string& step : steps) {
            if (at->is_null()) *at = Json::object();
            if (!at->is_object()) refuse(fmt::format("\"{}\" stands in no object", step), where_, "");
            at = &(*at)[step];
        }
        if (at->is_null()) *at = Json::array();
        if (!at->is_array()) refuse(fmt::format("\"{}\" is no list", table.under), where_, "Name a list.");
        list_ = at;
    }
    std::string keyOf(const std::string& entry) const { return keyOf(parsed(entry)); }
    void remove(const std::string& key) {
        for (std::size_t i = list_->size(); i-- > 0;)
            if (keyed((*list_)[i]) == key) list_->erase(i);
    }
    void add(const std::string& entry) {
        Json fresh = parsed(entry);
        const std::string key = keyOf(fresh);
        remove(key);
        std::vector<std::string> keys;
        for (const Json& one : *list_) keys.push_back(keyed(one));
        list_->insert(list_->begin() + long(placeFor(key, keys)), std::move(fresh));
    }
    std::string text() const { return jsonText(root_, 2) + "\n"; }
    std::vector<std::pair<std::string, std::string>> entries() const {
        std::vector<std::pair<std::string, std::string>> out;
        for (const Json& one : *list_)
            if (std::string key = keyed(one); !key.empty()) out.emplace_back(std::move(key), jsonText(one));
        return out;
    }

private:
    Json parsed(const std::string& entry) const {
        Json out = Json::parse(entry, nullptr, false);
        if (!out.is_object()) refuse("the entry is no object of JSON", where_, "Write {…}.");
        return out;
    }
    std::string keyed(const Json& entry) const {
        if (!entry.is_object() || !entry.contains(table_.key)) return {};
        const Json& value = entry[table_.key];
        return value.is_string() ? value.get<std::string>() : jsonText(value);
    }
    std::string keyOf(const Json& entry) const {
        const std::string key = keyed(entry);
        if (key.empty())
            refuse(fmt::format("the entry has no \"{}\"", table_.key), where_,
                   "Give it what tells it apart.");
        return key;
    }

    const TableOutput& table_;
    const std::string& where_;
    Json root_;
    Json* list_ = nullptr;
};

/// What `work` makes of the table, in whatever form it is written.
auto inForm(const std::string& text, const TableOutput& table, const std::string& where, const auto& work) {
    switch (table.form) {
    case TableOutput::Form::Xml: {
        XmlEntries entries(text, table, where);
        return work(entries);
    }
    case TableOutput::Form::Json: {
        JsonEntries entries(text, table, where);
        return work(entries);
    }
    default: {
        CsvEntries entries(text, table, where);
        return work(entries);
    }
    }
}

} // namespace

std::string tableWith(const std::string& text, const TableOutput& table,
                      const std::vector<std::string>& entries, const std::string& where) {
    return inForm(text, table, where, [&](auto& list) {
        for (const std::string& entry : entries) list.add(entry);
        return std::string(list.text());
    });
}

std::string tableWithout(const std::string& text, const TableOutput& table,
                         const std::vector<std::string>& keys, const std::string& where) {
    return inForm(text, table, where, [&](auto& list) {
        for (const std::string& key : keys) list.remove(key);
        return std::string(list.text());
    });
}

std::vector<std::string> keysOf(const TableOutput& table, const std::vector<std::string>& entries,
                                const std::string& where) {
    return inForm("", table, where, [&](auto& list) {
        std::vector<std::string> out;
        for (const std::string& entry : entries) out.push_back(list.keyOf(entry));
        return out;
    });
}

std::vector<std::pair<std::string, std::string>> entriesIn(const std::string& text, const TableOutput& table,
                                                           const std::string& where) {
    return inForm(text, table, where, [](auto& list) { return list.entries(); });
}

} // namespace zl::deliver
