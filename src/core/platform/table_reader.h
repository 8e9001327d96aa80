#pragma once
#include "core/base/error.h"
#include "core/base/words.h"

#include <fmt/format.h>
#include <glm/glm.hpp>
#include <toml++/toml.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <set>

namespace zl::platform {

/// A TOML file as a table. Throws Error with file and line when it is none.
inline toml::table parsedTable(const std::string& text, const std::filesystem::path& file) {
    try {
        return toml::parse(text);
    } catch (const toml::parse_error& problem) {
        throw Error(std::string(problem.description()),
                    fmt::format("{}:{}", file.string(), problem.source().begin.line),
                    "Expected TOML: `key = value` lines and [sections].");
    }
}

/// A TOML table that is asked for every key it may have, and then complains about the rest.
class TableReader {
public:
    TableReader(const toml::table& table, const std::filesystem::path& file) : table_(table), file_(file) {}

    [[noreturn]] void fail(const toml::node* node, const std::string& what,
                           const std::string& expected) const {
        const auto line = (node ? node->source() : table_.source()).begin.line;
        throw Error(what, fmt::format("{}:{}", file_.string(), line), "Expected " + expected + ".");
    }
    const toml::node* get(const std::string& key, bool required) {
        asked_.insert(key);
        const toml::node* node = table_.get(key);
        if (!node && required)
            fail(nullptr, fmt::format("\"{}\" is missing", key), fmt::format("a line `{} = …` here", key));
        return node;
    }
    std::string text(const std::string& key, bool required = true, std::string fallback = {}) {
        const toml::node* node = get(key, required);
        if (!node) return fallback;
        if (!node->is_string())
            fail(node, fmt::format("\"{}\" is not a text", key), "text in quotation marks");
        std::string value = node->as_string()->get();
        if (required && value.empty()) fail(node, fmt::format("\"{}\" is empty", key), "some text");
        return value;
    }
    double number(const toml::node* node, const std::string& key) {
        const auto value = node->value<double>();
        if (!value || !std::isfinite(*value))
            fail(node, fmt::format("\"{}\" is not a number", key), "a number");
        return *value;
    }
    double positive(const std::string& key) {
        const toml::node* node = get(key, true);
        const double value = number(node, key);
        if (value <= 0) fail(node, fmt::format("\"{}\" is {}", key, value), "a number above zero");
        return value;
    }
    /// Six digits like "#8d8f88": sRGB, 0 to 1.
    glm::vec3 colour(const std::string& key) {
        const std::string value = text(key);
        const auto digit = [](char c) { return c <= '9' ? c - '0' : c - 'a' + 10; };
        const auto isHex = [](char c) { return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'f'); };
        if (value.size() != 7 || value[0] != '#' || !std::ranges::all_of(value.substr(1), isHex))
            fail(table_.get(key), fmt::format("\"{}\" is no colour", value),
                 "six digits like \"#8d8f88\", letters in lower case");
        glm::vec3 out;
        for (int k = 0; k < 3; ++k)
            out[k] =
                float(16 * digit(value[std::size_t(2 * k + 1)]) + digit(value[std::size_t(2 * k + 2)])) / 255;
        return out;
    }
    bool flag(const std::string& key, bool fallback) {
        const toml::node* node = get(key, false);
        if (!node) return fallback;
        if (!node->is_boolean())
            fail(node, fmt::format("\"{}\" is neither true nor false", key), "true or false");
        return node->as_boolean()->get();
    }
    std::vector<std::string> texts(const std::string& key) {
        const toml::node* node = get(key, false);
        std::vector<std::string> out;
        if (!node) return out;
        if (!node->is_array())
            fail(node, fmt::format("\"{}\" is not a list", key), "a list like [\"one\", \"two\"]");
        for (const toml::node& entry : *node->as_array()) {
            if (!entry.is_string())
                fail(&entry, fmt::format("\"{}\" holds something else than texts", key),
                     "texts in quotation marks");
            out.push_back(entry.as_string()->get());
        }
        return out;
    }
    /// Fails over a word that is not among those known, naming the nearest; an empty list knows everything.
    void demandWord(const toml::node* node, std::string_view kind, const std::string& word,
                    const std::vector<std::string_view>& known) const {
        if (known.empty() || std::ranges::find(known, word) != known.end()) return;
        const std::string_view near = nearestWord(word, known);
        fail(node, fmt::format("there is no {} \"{}\"", kind, word),
             (near.empty() ? "one of " : fmt::format("\"{}\" perhaps, or one of ", near)) + inARow(known));
    }
    /// The same for every word of a list.
    std::vector<std::string> words(const std::string& key, std::string_view kind,
                                   const std::vector<std::string_view>& known) {
        auto list = texts(key);
        for (std::size_t i = 0; i < list.size(); ++i)
            demandWord(table_.get(key)->as_array()->get(i), kind, list[i], known);
        return list;
    }
    const toml::table* table(const std::string& key, bool required) {
        const toml::node* node = get(key, required);
        if (node && !node->is_table())
            fail(node, fmt::format("\"{}\" is not a table", key), fmt::format("a section [{}]", key));
        return node ? node->as_table() : nullptr;
    }
    /// The tables of a list of sections headed [[key]]; none when there is no such section.
    std::vector<const toml::table*> tables(const std::string& key, bool required) {
        const toml::node* node = get(key, required);
        std::vector<const toml::table*> out;
        if (!node) return out;
        if (!node->is_array_of_tables())
            fail(node, fmt::format("\"{}\" is not a list of sections", key),
                 fmt::format("sections headed [[{}]]", key));
        for (const toml::node& entry : *node->as_array()) out.push_back(entry.as_table());
        return out;
    }
    void refuseOthers() const {
        for (const auto& [key, node] : table_)
            if (!asked_.contains(std::string(key.str()))) {
                fail(&node, fmt::format("\"{}\" is not known here", key.str()), "one of " + inARow(asked_));
            }
    }

private:
    const toml::table& table_;
    const std::filesystem::path& file_;
    std::set<std::string> asked_;
};

} // namespace zl::platform
