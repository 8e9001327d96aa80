// A template out of texts in JSON: member by member, and lists by what the pieces have as many of.
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/learn/text_shape.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::learn {

namespace {

using Json = nlohmann::ordered_json;
using Values = std::vector<const Json*>;

/// Unexplained fields that become questions at most; more are written as most have them.
constexpr std::size_t mostAsked = 6;

class JsonShape {
public:
    explicit JsonShape(bool indents) : indents_(indents) {}

    std::string of(const Values& values, const Places& places, const std::string& field, int depth) {
        const auto all = [&](auto is) {
            return std::ranges::all_of(values, [&](const Json* v) { return is(*v); });
        };
        if (all([](const Json& v) { return v.is_object(); })) return object(values, places, field, depth);
        if (all([](const Json& v) { return v.is_array(); })) return list(values, places, field, depth);
        if (all([](const Json& v) { return v.is_string() || v.is_null(); }))
            return text(values, places, field);
        if (all([](const Json& v) { return v.is_number(); })) return number(values, places, field);
        return asMost(values, field);
    }

    TextShape out;

private:
    std::string newLine(int depth) const {
        return indents_ ? "\n" + std::string(std::size_t(2 * depth), ' ') : "";
    }
    std::string literal(const Json& value, int depth) const {
        std::string text = jsonText(value, indents_ ? 2 : -1);
        for (std::size_t at = 0; (at = text.find('\n', at)) != std::string::npos;
             at += 1 + std::size_t(2 * depth))
            text.insert(at + 1, std::string(std::size_t(2 * depth), ' '));
        return literally(text);
    }
    static bool allEqual(const Values& values) {
        return std::ranges::all_of(values, [&](const Json* v) { return *v == *values[0]; });
    }

    std::string object(const Values& values, const Places& places, const std::string& field, int depth) {
        std::string made = "{";
        bool any = false;
        for (const auto& [key, first] : values[0]->items()) {
            Values members;
            for (const Json* value : values)
                if (const auto found = value->find(key); found != value->end()) members.push_back(&*found);
            if (members.size() < values.size()) { // some do without
                out.guessed.push_back(field.empty() ? key : field + "." + key);
                continue;
            }
            made += (any ? "," : "") + newLine(depth + 1) + jsonText(Json(key)) + (indents_ ? ": " : ":") +
                    of(members, places, field.empty() ? key : field + "." + key, depth + 1);
            any = true;
        }
        return made + (any ? newLine(depth) : "") + "}";
    }

    std::string list(const Values& values, const Places& places, const std::string& field, int depth) {
        std::vector<std::size_t> counts;
        std::size_t entries = 0;
        for (const Json* value : values) counts.push_back(value->size()), entries += value->size();
        if (entries == 0) return "[]";
        std::string best;
        std::size_t bestOpen = 1000;
        TextShape bestOut;
        for (const std::string& name : places.listsOf(counts)) {
            const auto [made, inside] = entriesOf(values, places.within(name), name, field, depth);
            const std::size_t open = inside.guessed.size() + inside.asks.size();
            if (open < bestOpen) best = made, bestOpen = open, bestOut = inside;
            if (open == 0) break;
        }
        if (allEqual(values) && (best.empty() || bestOpen > 0)) return literal(*values[0], depth);
        if (best.empty()) return asMost(values, field);
        out.guessed.insert(out.guessed.end(), bestOut.guessed.begin(), bestOut.guessed.end());
        return best;
    }

    /// All lists' entries as one section. Lists may be in any order where they are of names.
    std::pair<std::string, TextShape> entriesOf(const Values& values, const Places& within,
                                                const std::string& name, const std::string& field,
                                                int depth) const {
        Values entries;
        std::vector<Json> sorted; // lists of texts by what they are, as the data's are by path
        sorted.reserve(values.size());
        for (const Json* value : values) sorted.push_back(*value);
        inDataOrder(sorted, within);
        for (const Json& one : sorted)
            for (const Json& entry : one) entries.push_back(&entry);
        JsonShape inside(indents_);
        std::string one = inside.of(entries, within, field + "[]", depth + 1);
        if (!inside.out.asks.empty() || !inside.out.guessed.empty())
            if (std::ranges::all_of(entries, [](const Json* e) { return e->is_string(); })) {
                std::string found = anyOrder(values, within);
                if (!found.empty()) one = found, inside.out = {};
            }
        const std::string text = "[{{#" + name + "}}{{^first}},{{/first}}" + newLine(depth + 1) + one +
                                 "{{/" + name + "}}{{#" + name + ".0}}" + newLine(depth) + "{{/" + name +
                                 ".0}}]";
        for (const Unexplained& ask : inside.out.asks) inside.out.guessed.push_back(ask.name);
        return {text, inside.out};
    }

    /// Puts lists of objects into the order in which the data has what they are about: that of a member and a
    /// place that hold the same texts. They stay as they are where there is none.
    static void inDataOrder(std::vector<Json>& lists, const Places& within) {
        if (lists.empty() || lists[0].empty() || !lists[0][0].is_object()) return;
        for (const auto& [key, first] : lists[0][0].items())
            for (const std::string& place : within.texts()) {
                std::vector<Json> ordered;
                std::size_t at = 0;
                bool all = true;
                for (const Json& list : lists) {
                    std::map<std::string, const Json*> byText;
                    for (const Json& entry : list)
                        if (entry.is_object() && entry.contains(key) && entry[key].is_string())
                            byText[entry[key].get<std::string>()] = &entry;
                    all = all && byText.size() == list.size();
                    Json made = Json::array();
                    for (std::size_t k = 0; k < list.size() && all; ++k, ++at) {
                        const auto found = byText.find(within.text(place, at));
                        all = found != byText.end();
                        if (all) made.push_back(*found->second), byText.erase(found);
                    }
                    if (!all) break;
                    ordered.push_back(std::move(made));
                }
                if (all) {
                    lists = std::move(ordered);
                    return;
                }
            }
    }

    /// A list of texts whose entries are what some place of the data's entries has, in another order.
    static std::string anyOrder(const Values& values, const Places& within) {
        for (const char* place : {"file", "path", "name", "stem", "hyphens", "underscores"}) {
            std::size_t at = 0;
            bool all = true;
            for (const Json* value : values) {
                std::multiset<std::string> wanted, has;
                for (const Json& entry : *value) wanted.insert(entry.get<std::string>());
                for (std::size_t k = 0; k < value->size() && all; ++k, ++at) {
                    const auto found = within.data()[at]->find(place);
                    all = found != within.data()[at]->end() && found->is_string();
                    if (all) has.insert(found->get<std::string>());
                }
                all = all && wanted == has;
                if (!all) break;
            }
            if (all) return std::string("\"{{") + place + "}}\"";
        }
        return {};
    }

    std::string text(const Values& values, const Places& places, const std::string& field) {
        std::vector<std::string> said; // of those that say something
        std::vector<std::size_t> where;
        for (std::size_t i = 0; i < values.size(); ++i)
            if (values[i]->is_string() && !values[i]->get_ref<const std::string&>().empty())
                said.push_back(values[i]->get<std::string>()), where.push_back(i);
        const bool nulls = std::ranges::any_of(values, [](const Json* v) { return v->is_null(); });
        if (said.empty()) return allEqual(values) ? literal(*values[0], 0) : asMost(values, field);
        if (places.inList()) // which picture an entry wears is not in the files, but is known at delivery
            for (const bool byPath : {true, false}) {
                bool all = places.list() == "objects";
                for (std::size_t k = 0; k < said.size() && all; ++k)
                    all = places.isPicture(where[k], said[k], byPath);
                if (all) return byPath ? "\"{{picture.path}}\"" : "\"{{picture.file}}\"";
            }
        std::vector<const nlohmann::json*> some;
        for (const std::size_t i : where) some.push_back(places.data()[i]);
        const std::string made = Places(some).explained(said);
        if (!made.empty()) {
            const std::string whole = "\"" + asWritten(made, Escaping::Json) + "\"";
            if (!nulls) return whole;
            const std::size_t from = made.find("{{") + 2;
            const std::string place = made.substr(from, made.find("}}") - from);
            return "{{#" + place + "}}" + whole + "{{/" + place + "}}{{^" + place + "}}null{{/" + place +
                   "}}";
        }
        const std::string small = lowerCase(field);
        if (small.find("credit") != std::string::npos || small.find("author") != std::string::npos ||
            small.find("maker") != std::string::npos)
            return "\"{{credit}}\"";
        if (said.size() == values.size() && allEqual(values)) return literal(*values[0], 0);
        return asked(values, field);
    }

    /// What the files do not explain is asked, with what most have.
    std::string asked(const Values& values, const std::string& field) {
        if (out.asks.size() >= mostAsked || field.find("[]") != std::string::npos)
            return asMost(values, field);
        std::vector<std::string> texts;
        for (const Json* value : values) texts.push_back(value->is_string() ? value->get<std::string>() : "");
        Unexplained ask{askName(field), {}, {}};
        ask.usual = commonest(texts, &ask.seen);
        for (const Unexplained& other : out.asks)
            if (other.name == ask.name) return asMost(values, field);
        out.asks.push_back(ask);
        return "\"{{answers." + ask.name + "}}\"";
    }

    std::string number(const Values& values, const Places& places, const std::string& field) {
        std::vector<double> numbers;
        for (const Json* value : values) numbers.push_back(value->get<double>());
        if (std::string made = places.explainedNumber(numbers); !made.empty()) return made;
        if (allEqual(values)) return literal(*values[0], 0);
        return asMost(values, field);
    }

    std::string asMost(const Values& values, const std::string& field) {
        std::vector<std::string> texts;
        for (const Json* value : values) texts.push_back(jsonText(*value));
        const std::string usual = commonest(texts);
        if (!allEqual(values)) out.guessed.push_back(field), out.isWhole = false;
        return literally(usual);
    }

    bool indents_;
};

} // namespace

TextShape jsonShape(const std::vector<Sample>& samples) {
    std::vector<Json> parsed;
    std::vector<const nlohmann::json*> data;
    for (const Sample& sample : samples) {
        Json one = Json::parse(sample.text->text, nullptr, false);
        if (one.is_discarded()) continue; // what was read once is read again
        parsed.push_back(std::move(one));
        data.push_back(sample.data);
    }
    Values values;
    for (const Json& one : parsed) values.push_back(&one);
    JsonShape shape(samples[0].text->text.find('\n') < samples[0].text->text.size() - 1);
    shape.out.text =
        shape.of(values, Places(data), {}, 0) + (samples[0].text->text.ends_with('\n') ? "\n" : "");
    return std::move(shape.out);
}

} // namespace zl::learn
