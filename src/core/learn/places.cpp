#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/base/name_styles.h"
#include "core/learn/text_shape.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::learn {

namespace {

using nlohmann::json;

/// Where a value is looked for first: names and files before what is counted.
constexpr const char* order[] = {"name",     "hyphens",   "underscores", "joined", "capitals",
                                 "as-it-is", "model",     "body",        "file",   "path",
                                 "stem",     "triangles", "corners",     "bounds", "bytes"};

const json* at(const json& data, const std::string& name) {
    const json* here = &data;
    for (std::size_t start = 0; start <= name.size();) {
        const std::size_t dot = std::min(name.find('.', start), name.size());
        const auto found = here->find(name.substr(start, dot - start));
        if (!here->is_object() || found == here->end()) return nullptr;
        here = &*found;
        start = dot + 1;
    }
    return here;
}

bool near(double a, double b) {
    return std::abs(a - b) <= 1e-4 * std::max({1e-3, std::abs(a), std::abs(b)});
}

} // namespace

std::string commonest(const std::vector<std::string>& values, std::vector<std::string>* seen) {
    std::map<std::string, std::size_t> counts;
    for (const std::string& value : values) ++counts[value];
    std::vector<std::pair<std::string, std::size_t>> sorted(counts.begin(), counts.end());
    std::ranges::stable_sort(sorted, [](const auto& a, const auto& b) { return a.second > b.second; });
    if (seen)
        for (const auto& [value, count] : sorted) seen->push_back(value);
    return sorted.empty() ? "" : sorted[0].first;
}

std::string askName(const std::string& field) {
    std::string last =
        field.substr(field.find_last_of(".@[] ") == std::string::npos ? 0 : field.find_last_of(".@[] ") + 1);
    last = fileNameFrom(last);
    std::ranges::replace(last, '_', '-');
    static const std::set<std::string> taken{"name",     "platform", "size", "object",
                                             "material", "picture",  "file", "n"};
    return taken.contains(last) ? last + "-said" : last;
}

Places::Places(std::vector<const json*> data) : data_(std::move(data)), whole_(data_) {
    if (!data_.empty()) flatten(*data_[0], "");
}

void Places::flatten(const json& value, const std::string& name) {
    if (value.is_object()) {
        std::vector<std::string> keys;
        for (const auto& [key, entry] : value.items()) keys.push_back(key);
        std::ranges::stable_sort(keys, {}, [](const std::string& key) {
            return std::ranges::find(order, std::string_view(key)) - std::begin(order);
        });
        for (const std::string& key : keys) flatten(value.at(key), name.empty() ? key : name + "." + key);
        return;
    }
    if (value.is_array()) return;
    Place place{name, {}};
    for (const json* data : data_) {
        const json* found = at(*data, name);
        if (!found) return;
        place.values.push_back(*found);
    }
    places_.push_back(std::move(place));
}

std::string unescaped(const std::string& value, Escaping as) {
    if (as == Escaping::Json || as == Escaping::Toml) { // whose basic strings are nearly JSON's
        const json said = parsedJson('"' + value + '"');
        return said.is_string() ? said.get<std::string>() : value;
    }
    if (as != Escaping::Xml || value.find('&') == std::string::npos || value.find('<') != std::string::npos)
        return value;
    pugi::xml_document document;
    return document.load_string(fmt::format("<a>{}</a>", value).c_str()) ? document.child("a").text().get()
                                                                         : value;
}

std::string literally(std::string text) {
    for (std::size_t at = 0; (at = text.find("{{", at)) != std::string::npos; at += 3)
        text.insert(at + 1, " ");
    return text;
}

std::string asWritten(const std::string& made, Escaping as) {
    if (as != Escaping::Json && as != Escaping::Toml && as != Escaping::Xml) return made;
    std::string out;
    for (std::size_t at = 0; at < made.size();) {
        const std::size_t place = std::min(made.find("{{", at), made.size());
        out += escaped(std::string_view(made).substr(at, place - at), as);
        at = std::min(made.find("}}", place), made.size() - 2) + 2;
        if (place < made.size()) out += made.substr(place, at - place);
    }
    return out;
}

std::string Places::explained(const std::vector<std::string>& values) const {
    // A game's own placeholders are no places of ours.
    if (std::ranges::any_of(values, [](const std::string& v) { return v.find("{{") != std::string::npos; }))
        return {};
    const auto isAll = [&](const Place& place) {
        for (std::size_t i = 0; i < values.size(); ++i)
            if (!place.values[i].is_string() || place.values[i].get_ref<const std::string&>() != values[i])
                return false;
        return true;
    };
    if (std::ranges::all_of(values, [](const std::string& v) { return v.empty(); })) return {};
    for (const Place& place : places_)
        if (isAll(place)) return "{{" + place.name + "}}";
    // A part of each is what a place has: the longest such place.
    std::string best;
    std::size_t length = 2;
    for (const Place& place : places_) {
        std::size_t shortest = 1000;
        std::string frame;
        bool holds = true;
        for (std::size_t i = 0; i < values.size() && holds; ++i) {
            const std::string has = place.values[i].is_string() ? place.values[i].get<std::string>() : "";
            const std::size_t found = has.empty() ? std::string::npos : values[i].find(has);
            holds = found != std::string::npos;
            if (!holds) break;
            const std::string own =
                values[i].substr(0, found) + "{{" + place.name + "}}" + values[i].substr(found + has.size());
            holds = frame.empty() || frame == own;
            frame = own;
            shortest = std::min(shortest, has.size());
        }
        if (holds && shortest > length) best = frame, length = shortest;
    }
    return best;
}

std::string Places::explainedNumber(const std::vector<double>& values) const {
    // Small numbers are anything: that both are 12 says little.
    const bool large =
        std::ranges::any_of(values, [](double v) { return std::abs(v) > 40 || v != std::floor(v); });
    const bool differ = std::ranges::any_of(values, [&](double v) { return v != values[0]; });
    if (!large && !differ) return {};
    for (const Place& place : places_) {
        bool all = true;
        for (std::size_t i = 0; i < values.size() && all; ++i)
            all = place.values[i].is_number() && near(place.values[i].get<double>(), values[i]);
        if (all) return "{{" + place.name + "}}";
    }
    return {};
}

std::vector<std::string> Places::listsOf(const std::vector<std::size_t>& counts) const {
    std::vector<std::string> out;
    if (inList()) return out;
    for (const char* name : {"objects", "pictures", "materials", "models", "bodies", "clips", "bones"}) {
        bool all = true;
        for (std::size_t i = 0; i < counts.size() && all; ++i) {
            const auto found = data_[i]->find(name);
            all = found != data_[i]->end() && found->size() == counts[i];
        }
        if (all) out.emplace_back(name);
    }
    return out;
}

Places Places::within(const std::string& list) const {
    std::vector<const json*> entries, whole;
    for (const json* data : data_)
        for (const json& entry : data->at(list)) entries.push_back(&entry), whole.push_back(data);
    Places out(entries);
    out.whole_ = std::move(whole);
    out.list_ = list;
    return out;
}

std::vector<std::string> Places::texts() const {
    std::vector<std::string> out;
    for (const Place& place : places_)
        if (std::ranges::all_of(place.values, [](const json& v) { return v.is_string(); }))
            out.push_back(place.name);
    return out;
}

std::string Places::text(const std::string& place, std::size_t entry) const {
    const json* found = at(*data_[entry], place);
    return found && found->is_string() ? found->get<std::string>() : "";
}

bool Places::isPicture(std::size_t sample, const std::string& value, bool byPath) const {
    const auto found = whole_[sample]->find("pictures");
    return found != whole_[sample]->end() && std::ranges::any_of(*found, [&](const json& picture) {
               return picture.at(byPath ? "path" : "file") == value;
           });
}

} // namespace zl::learn
