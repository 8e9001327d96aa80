#include "core/platform/sheet_text.h"

#include "core/base/error.h"
#include "core/base/toml_text.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include <algorithm>

namespace zl::platform {

namespace {

/// Where each line begins, and the text's end.
std::vector<std::size_t> lineStarts(const std::string& text) {
    std::vector<std::size_t> out{0};
    for (std::size_t at = 0; (at = text.find('\n', at)) != std::string::npos;) out.push_back(++at);
    out.push_back(text.size());
    return out;
}

/// A place that is counted in lines and letters, in bytes.
std::size_t offsetOf(const std::string& text, const toml::source_position& place) {
    const auto starts = lineStarts(text);
    std::size_t at = starts[std::min<std::size_t>(place.line - 1, starts.size() - 1)];
    for (toml::source_index column = 1; column < place.column && at < text.size(); ++column) {
        ++at;
        while (at < text.size() && (static_cast<unsigned char>(text[at]) & 0xc0) == 0x80)
            ++at; // rest of a letter
    }
    return at;
}

/// The last line that anything of a node stands on.
toml::source_index lastLine(const toml::node& node) {
    toml::source_index last = std::max(node.source().begin.line, node.source().end.line);
    if (const auto* table = node.as_table())
        for (const auto& [key, entry] : *table) last = std::max(last, lastLine(entry));
    if (const auto* list = node.as_array())
        for (const toml::node& entry : *list) last = std::max(last, lastLine(entry));
    return last;
}

/// The last line of a section's own keys: sections within it have headings of their own.
toml::source_index lastOwnLine(const toml::table& table, bool isRoot) {
    toml::source_index last = isRoot ? 0 : table.source().begin.line;
    for (const auto& [key, entry] : table)
        if ((!entry.is_table() || entry.as_table()->is_inline()) && !entry.is_array_of_tables())
            last = std::max(last, lastLine(entry));
    return last;
}

} // namespace

struct SheetText::Parsed {
    toml::table root;

    const toml::table* section(std::string_view name) const {
        if (name.empty()) return &root;
        const toml::node* node = root.get(name);
        return node ? node->as_table() : nullptr;
    }
    const toml::table* entry(std::string_view list, std::size_t index) const {
        const toml::node* node = root.get(list);
        if (!node || !node->is_array_of_tables() || index >= node->as_array()->size()) return nullptr;
        return node->as_array()->get(index)->as_table();
    }
};

namespace {

std::optional<SheetText::Value> valueOf(const toml::node* node) {
    if (!node) return std::nullopt;
    if (const auto* text = node->as_string()) return text->get();
    if (const auto* flag = node->as_boolean()) return flag->get();
    if (node->is_number()) return *node->value<double>();
    const auto* list = node->as_array();
    if (!list) return std::nullopt;
    std::vector<std::string> out;
    for (const toml::node& entry : *list) {
        if (!entry.is_string()) return std::nullopt;
        out.push_back(entry.as_string()->get());
    }
    return out;
}

/// The text with `key = value` in a section.
std::string withValue(const std::string& text, const toml::table& table, bool isRoot, std::string_view key,
                      std::string_view value) {
    if (const toml::node* node = table.get(key)) {
        const std::size_t from = offsetOf(text, node->source().begin),
                          to = offsetOf(text, node->source().end);
        return text.substr(0, from) + std::string(value) + text.substr(to);
    }
    const auto starts = lineStarts(text);
    const std::size_t line = lastOwnLine(table, isRoot);
    const std::size_t at = starts[std::min(line, starts.size() - 1)];
    const std::string own = fmt::format("{} = {}\n", tomlKey(std::string(key)), value);
    const bool unfinished = at > 0 && at == text.size() && text.back() != '\n';
    return text.substr(0, at) + (unfinished ? "\n" : "") + own + text.substr(at);
}

std::string withoutValue(const std::string& text, const toml::table& table, std::string_view key) {
    const toml::node* node = table.get(key);
    if (!node) return text;
    const auto starts = lineStarts(text);
    // A key stands on the line on which its value begins.
    const std::size_t from = starts[node->source().begin.line - 1],
                      to = starts[std::min<std::size_t>(lastLine(*node), starts.size() - 1)];
    return text.substr(0, from) + text.substr(to);
}

} // namespace

SheetText::SheetText(std::string text) {
    replace(std::move(text));
}
SheetText::~SheetText() = default;
SheetText::SheetText(SheetText&&) noexcept = default;
SheetText& SheetText::operator=(SheetText&&) noexcept = default;

void SheetText::replace(std::string text) {
    try {
        auto parsed = std::make_unique<Parsed>(Parsed{toml::parse(text)});
        parsed_ = std::move(parsed);
        text_ = std::move(text);
    } catch (const toml::parse_error& problem) {
        throw Error(std::string(problem.description()), fmt::format("line {}", problem.source().begin.line),
                    "Expected TOML: `key = value` lines and [sections].");
    }
}

void SheetText::set(std::string_view section, std::string_view key, std::string_view value) {
    if (const toml::table* table = parsed_->section(section))
        return replace(withValue(text_, *table, section.empty(), key, value));
    const std::string end = text_.empty() || text_.ends_with("\n") ? "" : "\n";
    // Before the first list of sections, where a sheet says what it is.
    const std::size_t list = text_.find("\n[[");
    const std::string own = fmt::format("[{}]\n{} = {}\n\n", section, key, value);
    if (list == std::string::npos) return replace(text_ + end + "\n" + own);
    replace(text_.substr(0, list + 1) + own + text_.substr(list + 1));
}

void SheetText::set(std::string_view list, std::size_t index, std::string_view key, std::string_view value) {
    if (const toml::table* table = parsed_->entry(list, index))
        replace(withValue(text_, *table, false, key, value));
}

void SheetText::erase(std::string_view section, std::string_view key) {
    if (const toml::table* table = parsed_->section(section)) replace(withoutValue(text_, *table, key));
}

void SheetText::erase(std::string_view list, std::size_t index, std::string_view key) {
    if (const toml::table* table = parsed_->entry(list, index)) replace(withoutValue(text_, *table, key));
}

std::optional<SheetText::Value> SheetText::get(std::string_view section, std::string_view key) const {
    const toml::table* table = parsed_->section(section);
    return table ? valueOf(table->get(key)) : std::nullopt;
}

std::optional<SheetText::Value> SheetText::get(std::string_view list, std::size_t index,
                                               std::string_view key) const {
    const toml::table* table = parsed_->entry(list, index);
    return table ? valueOf(table->get(key)) : std::nullopt;
}

bool SheetText::has(std::string_view section) const {
    return parsed_->section(section) != nullptr;
}

std::size_t SheetText::count(std::string_view list) const {
    const toml::node* node = parsed_->root.get(list);
    return node && node->is_array_of_tables() ? node->as_array()->size() : 0;
}

std::optional<std::size_t> SheetText::find(std::string_view list, std::string_view key,
                                           std::string_view text) const {
    for (std::size_t i = 0; i < count(list); ++i) {
        const toml::node* node = parsed_->entry(list, i)->get(key);
        if (node && node->is_string() && node->as_string()->get() == text) return i;
    }
    return std::nullopt;
}

void SheetText::add(std::string_view list, std::string_view section) {
    const auto starts = lineStarts(text_);
    const std::size_t there = count(list);
    std::size_t at = text_.size();
    if (there > 0)
        at = starts[std::min<std::size_t>(lastLine(*parsed_->entry(list, there - 1)), starts.size() - 1)];
    std::string before = text_.substr(0, at), own(section);
    if (!before.empty() && before.back() != '\n') before += '\n';
    while (!own.empty() && own.back() == '\n') own.pop_back();
    replace(before + "\n" + own + "\n" + text_.substr(at));
}

void SheetText::remove(std::string_view list, std::size_t index) {
    const toml::table* table = parsed_->entry(list, index);
    if (!table) return;
    const auto starts = lineStarts(text_);
    std::size_t first = table->source().begin.line - 1;
    std::size_t last = std::min<std::size_t>(lastLine(*table), starts.size() - 1);
    const auto line = [&](std::size_t number) {
        return text_.substr(starts[number], starts[number + 1] - starts[number]);
    };
    while (first > 0 && line(first - 1).starts_with("#")) --first;
    while (last + 1 < starts.size() && line(last).find_first_not_of(" \t\r\n") == std::string::npos) ++last;
    replace(text_.substr(0, starts[first]) + text_.substr(starts[last]));
}

std::size_t SheetText::lineOf(std::string_view list, std::size_t index) const {
    const toml::table* table = parsed_->entry(list, index);
    return table ? table->source().begin.line : 0;
}

} // namespace zl::platform
