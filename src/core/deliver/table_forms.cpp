#include "core/deliver/table_forms.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/plain_number.h"

#include <fmt/format.h>

#include <algorithm>
#include <sstream>

namespace zl::deliver {

namespace {

using platform::TableOutput;

[[noreturn]] void refuse(const std::string& what, const std::string& where, const std::string& mend) {
    throw Error(what, where, mend);
}

void demandKey(const std::string& key, const TableOutput& table, const std::string& where) {
    if (key.empty())
        refuse(fmt::format("the entry has no \"{}\"", table.key), where, "Give it what tells it apart.");
}

/// The steps of "a/b/c".
std::vector<std::string> stepsOf(const std::string& under) {
    std::vector<std::string> out;
    std::stringstream in(under);
    for (std::string step; std::getline(in, step, '/');)
        if (!step.empty()) out.push_back(step);
    return out;
}

std::string withoutEnd(std::string line) {
    while (!line.empty() && (line.back() == '\n' || line.back() == '\r')) line.pop_back();
    return line;
}

/// An attribute's value, or the text of an element within.
std::string valueIn(const pugi::xml_node& node, const std::string& name) {
    if (const auto attribute = node.attribute(name.c_str())) return attribute.value();
    return node.child(name.c_str()).text().get();
}

std::string valueIn(const nlohmann::ordered_json& entry, const std::string& name) {
    if (!entry.is_object() || !entry.contains(name)) return {};
    const auto& value = entry[name];
    return value.is_string() ? value.get<std::string>() : jsonText(value);
}

} // namespace

CsvForm::CsvForm(const std::string& text, const TableOutput& table, const std::string& where)
    : said_(table), where_(where), text_(text.empty() ? table.header + "\n" : text),
      head_(text_.substr(0, text_.find_first_of("\r\n"))), table_(readCsv(text_)) {
    key_ = table_.column(lowerCase(table.key));
    if (key_ < 0)
        refuse(fmt::format("the table has no column \"{}\"", table.key), where,
               "Name the column that tells its lines apart.");
    if (!table.numbered.empty()) {
        number_ = table_.column(lowerCase(table.numbered));
        if (number_ < 0)
            refuse(fmt::format("the table has no column \"{}\"", table.numbered), where,
                   "Name the column that its numbers stand in.");
    }
    if (table.header.empty()) return; // entries are in this table's own columns
    CsvTable own = readCsv(table.header + "\n");
    if (own.columns == table_.columns && own.separator == table_.separator) return;
    for (const std::string& column : own.columns)
        if (table_.column(column) < 0)
            refuse(fmt::format("the table has no column \"{}\"", column), where,
                   fmt::format("The sheet writes {}.", table.header));
    own_ = std::move(own);
}

std::vector<Keyed<std::string>> CsvForm::there() const {
    std::vector<Keyed<std::string>> out;
    out.reserve(table_.rows.size());
    for (std::size_t i = 0; i < table_.rows.size(); ++i) {
        const std::size_t from = table_.rows[i].from,
                          to = i + 1 < table_.rows.size() ? table_.rows[i + 1].from : text_.size();
        out.push_back({std::string(table_.rows[i].at(key_)), text_.substr(from, to - from)});
    }
    return out;
}

CsvTable::Row CsvForm::rowOf(const std::string& head, const std::string& line) const {
    CsvTable one = readCsv(head + "\n" + line);
    if (one.rows.size() != 1)
        refuse(fmt::format("the entry is {} lines", one.rows.size()), where_, "Write one line.");
    return std::move(one.rows[0]);
}

Keyed<std::string> CsvForm::fresh(const std::string& entry) const {
    const CsvTable& columns = own_ ? *own_ : table_;
    const CsvTable::Row row = rowOf(own_ ? said_.header : head_, entry);
    const std::string key(row.at(columns.column(lowerCase(said_.key))));
    demandKey(key, said_, where_);
    if (!own_) return {key, withoutEnd(entry) + table_.lineEnd};
    std::vector<std::pair<std::string_view, std::string>> cells;
    for (std::size_t c = 0; c < columns.columns.size(); ++c)
        cells.emplace_back(columns.columns[c], row.at(int(c)));
    return {key, csvLine(table_, cells) + table_.lineEnd};
}

std::optional<int> CsvForm::numberOf(const std::string& entry) const {
    return onlyNumber<int>(rowOf(head_, entry).at(number_));
}

void CsvForm::setNumber(std::string& entry, int number) const {
    const CsvTable::Row row = rowOf(head_, entry);
    std::vector<std::pair<std::string_view, std::string>> cells;
    for (std::size_t c = 0; c < table_.columns.size(); ++c)
        cells.emplace_back(table_.columns[c],
                           int(c) == number_ ? std::to_string(number) : std::string(row.at(int(c))));
    entry = csvLine(table_, cells) + table_.lineEnd;
}

std::string CsvForm::written(const std::vector<Keyed<std::string>>& all) {
    std::string out = text_.substr(0, table_.rows.empty() ? text_.size() : table_.rows[0].from);
    for (const auto& [key, line] : all) {
        const bool ended = out.empty() || out.back() == '\n' || out.back() == '\r';
        out += (ended ? "" : table_.lineEnd) + line;
    }
    return out;
}

namespace {

constexpr unsigned keptOfXml = pugi::parse_default | pugi::parse_comments | pugi::parse_declaration |
                               pugi::parse_doctype | pugi::parse_pi;

} // namespace

XmlForm::XmlForm(const std::string& text, const TableOutput& table, const std::string& where)
    : said_(table), where_(where) {
    if (!text.empty()) {
        const auto read = document_.load_buffer(text.data(), text.size(), keptOfXml);
        if (!read) refuse(fmt::format("is no XML: {}", read.description()), where, "Mend it by hand.");
    }
    pugi::xml_node at = document_;
    for (const std::string& step : stepsOf(table.under)) {
        pugi::xml_node next = at.child(step.c_str());
        if (!next) next = at.append_child(step.c_str());
        at = next;
    }
    list_ = at;
}

std::vector<Keyed<pugi::xml_node>> XmlForm::there() const {
    std::vector<Keyed<pugi::xml_node>> out;
    for (const pugi::xml_node child : list_.children()) out.push_back({keyOf(child), child});
    return out;
}

std::string XmlForm::keyOf(const pugi::xml_node& node) const {
    return valueIn(node, said_.key);
}

Keyed<pugi::xml_node> XmlForm::fresh(const std::string& entry) {
    pugi::xml_document one;
    const auto read = one.load_buffer(entry.data(), entry.size(), keptOfXml);
    if (!read || !one.document_element() || one.document_element().next_sibling())
        refuse("the entry is not one element", where_, "Write <name …/> or <name>…</name>.");
    const pugi::xml_node made = fresh_.append_copy(one.document_element());
    demandKey(keyOf(made), said_, where_);
    return {keyOf(made), made};
}

std::optional<int> XmlForm::numberOf(const pugi::xml_node& entry) const {
    return onlyNumber<int>(valueIn(entry, said_.numbered));
}

void XmlForm::setNumber(pugi::xml_node& entry, int number) const {
    const char* name = said_.numbered.c_str();
    if (auto attribute = entry.attribute(name))
        attribute.set_value(number);
    else if (auto child = entry.child(name))
        child.text().set(number);
    else
        entry.append_attribute(name).set_value(number);
}

std::string XmlForm::textOf(const pugi::xml_node& entry) {
    std::ostringstream out;
    entry.print(out, "", pugi::format_raw);
    return std::move(out).str();
}

std::string XmlForm::written(const std::vector<Keyed<pugi::xml_node>>& all) {
    // Copies go to the end, one after the other, and then all goes that stood in front of them.
    const pugi::xml_node last = list_.last_child();
    for (const auto& [key, node] : all) list_.append_copy(node);
    while (last && list_.first_child() != last) list_.remove_child(list_.first_child());
    if (last) list_.remove_child(last);
    std::ostringstream out;
    document_.save(out, "  ", pugi::format_indent);
    return std::move(out).str();
}

JsonForm::JsonForm(const std::string& text, const TableOutput& table, const std::string& where)
    : said_(table), where_(where) {
    root_ = text.empty() ? Entry() : Entry::parse(text, nullptr, false);
    if (root_.is_discarded()) refuse("is no JSON", where, "Mend it by hand.");
    Entry* at = &root_;
    for (const std::string& step : stepsOf(table.under)) {
        if (at->is_null()) *at = Entry::object();
        if (!at->is_object()) refuse(fmt::format("\"{}\" stands in no object", step), where, "");
        at = &(*at)[step];
    }
    if (at->is_null()) *at = Entry::array();
    if (!at->is_array()) refuse(fmt::format("\"{}\" is no list", table.under), where, "Name a list.");
    list_ = at;
}

std::vector<Keyed<nlohmann::ordered_json>> JsonForm::there() const {
    std::vector<Keyed<Entry>> out;
    for (const Entry& one : *list_) out.push_back({keyOf(one), one});
    return out;
}

std::string JsonForm::keyOf(const Entry& entry) const {
    return valueIn(entry, said_.key);
}

Keyed<nlohmann::ordered_json> JsonForm::fresh(const std::string& entry) const {
    Entry made = Entry::parse(entry, nullptr, false);
    if (!made.is_object()) refuse("the entry is no object of JSON", where_, "Write {…}.");
    std::string key = keyOf(made);
    demandKey(key, said_, where_);
    return {std::move(key), std::move(made)};
}

std::optional<int> JsonForm::numberOf(const Entry& entry) const {
    return onlyNumber<int>(valueIn(entry, said_.numbered));
}

void JsonForm::setNumber(Entry& entry, int number) const {
    entry[said_.numbered] = number;
}

std::string JsonForm::textOf(const Entry& entry) {
    return jsonText(entry);
}

std::string JsonForm::written(const std::vector<Keyed<Entry>>& all) {
    *list_ = Entry::array();
    for (const auto& [key, entry] : all) list_->push_back(entry);
    return jsonText(root_, 2) + "\n";
}

} // namespace zl::deliver
