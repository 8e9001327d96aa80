#include "core/learn/file_facts.h"

#include "core/base/csv_table.h"
#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/lines.h"
#include "core/base/utf8.h"

#include <nlohmann/json.hpp>
#include <pugixml.hpp>
#include <toml++/toml.h>

#include <sstream>

namespace zl::learn {

namespace {

using Fields = std::map<std::string, std::string>;
using Form = TextFacts::Form;

/// Fields that are kept of one text: more are a table, and no description.
constexpr std::size_t mostFields = 400;
constexpr int mostDepth = 32;

std::string below(const std::string& path, const std::string& name) {
    return path.empty() ? name : path + "." + name;
}

void addJson(const nlohmann::json& value, const std::string& path, Fields& fields, int depth) {
    if (fields.size() >= mostFields || depth > mostDepth) return;
    if (value.is_object())
        for (const auto& [key, entry] : value.items()) addJson(entry, below(path, key), fields, depth + 1);
    else if (value.is_array())
        for (const auto& entry : value) addJson(entry, path + "[]", fields, depth + 1);
    else
        fields.emplace(path, value.is_string() ? value.get<std::string>() : jsonText(value));
}

void addXml(const pugi::xml_node& node, const std::string& path, Fields& fields, int depth) {
    if (fields.size() >= mostFields || depth > mostDepth) return;
    for (const auto& attribute : node.attributes())
        fields.emplace(path + "@" + attribute.name(), attribute.value());
    if (const std::string text = node.text().get(); !text.empty()) fields.emplace(path, text);
    for (const auto& child : node.children())
        if (child.type() == pugi::node_element) addXml(child, below(path, child.name()), fields, depth + 1);
}

void addToml(const toml::node& node, const std::string& path, Fields& fields, int depth) {
    if (fields.size() >= mostFields || depth > mostDepth) return;
    if (const auto* table = node.as_table()) {
        for (const auto& [key, entry] : *table)
            addToml(entry, below(path, std::string(key.str())), fields, depth + 1);
    } else if (const auto* list = node.as_array()) {
        for (const toml::node& entry : *list) addToml(entry, path + "[]", fields, depth + 1);
    } else if (const auto* text = node.as_string()) {
        fields.emplace(path, text->get());
    } else {
        std::ostringstream out;
        node.visit([&out](const auto& held) {
            if constexpr (toml::is_value<decltype(held)>) out << held.get();
        });
        fields.emplace(path, out.str());
    }
}

/// `[section]` and `key = value` lines; true when every line that is neither empty nor a comment is one.
bool addIni(const std::string& text, Fields& fields) {
    std::istringstream in(text);
    std::string section;
    bool any = false;
    const auto trimmed = [](std::string_view part) {
        while (!part.empty() && static_cast<unsigned char>(part.front()) <= ' ') part.remove_prefix(1);
        while (!part.empty() && static_cast<unsigned char>(part.back()) <= ' ') part.remove_suffix(1);
        return std::string(part);
    };
    for (std::string line; std::getline(in, line);) {
        line = trimmed(line);
        if (line.empty() || line[0] == ';' || line[0] == '#') continue;
        if (line.front() == '[' && line.back() == ']') {
            section = trimmed(std::string_view(line).substr(1, line.size() - 2));
            continue;
        }
        const std::size_t equals = line.find('=');
        if (equals == std::string::npos || equals == 0) return false;
        if (fields.size() < mostFields)
            fields.emplace(below(section, trimmed(std::string_view(line).substr(0, equals))),
                           trimmed(std::string_view(line).substr(equals + 1)));
        any = true;
    }
    return any;
}

void addCsv(const std::string& text, Fields& fields) {
    const CsvTable table = readCsv(text);
    for (const auto& row : table.rows)
        for (std::size_t c = 0; c < table.columns.size() && fields.size() < mostFields; ++c)
            fields.emplace(table.columns[c], std::string(row.at(int(c))));
}

bool endsIn(std::string_view name, std::string_view ending) {
    return lowerCase(name).ends_with(ending);
}

} // namespace

TextFacts textFacts(std::string text, std::string_view name) {
    TextFacts out;
    if (text.starts_with("\xef\xbb\xbf")) text.erase(0, 3);
    out.text = asUtf8(text);
    out.windowsLines = hasWindowsLines(out.text);
    if (out.windowsLines) std::erase(out.text, '\r');
    const std::size_t first = out.text.find_first_not_of(" \t\r\n");
    const char begins = first == std::string::npos ? ' ' : out.text[first];
    if (begins == '{' || begins == '[') {
        const auto json = parsedJson(out.text);
        if (!json.is_discarded()) {
            out.form = Form::Json;
            addJson(json, {}, out.fields, 0);
            return out;
        }
        // As it was written by hand: its comments and commas are kept, line by line.
        if (const auto byHand = parsedHandJson(out.text); !byHand.is_discarded()) {
            addJson(byHand, {}, out.fields, 0);
            return out;
        }
        if (endsIn(name, ".json")) throw Error("is no JSON");
    }
    if (begins == '<') {
        pugi::xml_document document;
        const auto read = document.load_buffer(out.text.data(), out.text.size());
        if (read && document.document_element()) {
            out.form = Form::Xml;
            const auto root = document.document_element();
            addXml(root, root.name(), out.fields, 0);
            return out;
        }
        if (endsIn(name, ".xml")) throw Error("is no XML");
    }
    if (endsIn(name, ".csv")) {
        out.form = Form::Csv;
        addCsv(out.text, out.fields);
        return out;
    }
    if (!endsIn(name, ".ini") && !endsIn(name, ".cfg")) try {
            const toml::table table = toml::parse(out.text);
            if (!table.empty()) {
                out.form = Form::Toml;
                addToml(table, {}, out.fields, 0);
                return out;
            }
        } catch (const toml::parse_error&) {
            if (endsIn(name, ".toml")) throw Error("is no TOML");
        }
    if (addIni(out.text, out.fields))
        out.form = Form::Ini;
    else
        out.fields.clear();
    return out;
}

} // namespace zl::learn
