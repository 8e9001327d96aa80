#include "core/base/text_template.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/letters.h"
#include "core/base/toml_text.h"
#include "core/base/utf8.h"
#include "core/base/words.h"

#include <fmt/format.h>
#include <kainjow/mustache.hpp>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <filesystem>
#include <set>

namespace zl {

namespace {

namespace mustache = kainjow::mustache;

constexpr std::size_t mostTemplateBytes = 1u << 20;
constexpr int mostNesting = 32;

/// A tag of a template, as far as it is looked at before Mustache reads it.
struct Tag {
    char sigil = 0; ///< '#', '^', '/', '>', '!', '=', '&', '{' or 0
    std::string name;
    std::size_t line = 1;
};

std::vector<Tag> tagsOf(const std::string& text) {
    std::vector<Tag> tags;
    std::size_t line = 1, counted = 0;
    for (std::size_t at = 0; (at = text.find("{{", at)) != std::string::npos;) {
        line += std::size_t(std::count(text.begin() + long(counted), text.begin() + long(at), '\n'));
        counted = at;
        const std::size_t end = text.find("}}", at + 2);
        Tag tag{0, {}, line};
        std::string inside = text.substr(at + 2, end == std::string::npos ? end : end - at - 2);
        if (!inside.empty() && std::string_view("#^/>!=&{").find(inside[0]) != std::string_view::npos)
            tag.sigil = inside[0], inside.erase(0, 1);
        const auto isSpace = [](unsigned char c) { return std::isspace(c) != 0; };
        while (!inside.empty() && isSpace(inside.back())) inside.pop_back();
        inside.erase(inside.begin(), std::ranges::find_if_not(inside, isSpace));
        tag.name = std::move(inside);
        tags.push_back(std::move(tag));
        if (end == std::string::npos) break;
        at = end + 2;
    }
    return tags;
}

[[noreturn]] void fail(const std::string& where, std::size_t line, const std::string& what,
                       const std::string& mend) {
    throw Error(what, fmt::format("{}, line {}", where, line), mend);
}

/// What Mustache does not say, or not with its line: sections that are left open, parts that are not there.
void demandSound(const std::string& text, const std::string& where, const TextTemplate::Parts& parts) {
    if (text.size() > mostTemplateBytes)
        fail(where, 1, "the template is larger than a megabyte", "Leave data out of it.");
    std::vector<Tag> open;
    for (const Tag& tag : tagsOf(text)) {
        const auto named = [&](const char* what) {
            if (tag.name.empty()) fail(where, tag.line, what, "Expected {{name}}.");
        };
        switch (tag.sigil) {
        case '=':
            fail(where, tag.line, "other marks than {{ and }} cannot be chosen", "Leave this tag out.");
        case '#':
        case '^':
            named("a section without a name");
            open.push_back(tag);
            if (open.size() > mostNesting)
                fail(where, tag.line, fmt::format("sections are nested deeper than {}", mostNesting),
                     "Close some of them.");
            break;
        case '/':
            if (open.empty())
                fail(where, tag.line, fmt::format("{{{{/{}}}}} closes nothing", tag.name),
                     fmt::format("Open it with {{{{#{}}}}}.", tag.name));
            if (open.back().name != tag.name)
                fail(where, tag.line,
                     fmt::format("{{{{/{}}}}} stands where {{{{/{}}}}} is due", tag.name, open.back().name),
                     fmt::format("\"{}\" was opened in line {}.", open.back().name, open.back().line));
            open.pop_back();
            break;
        case '>':
            if (!parts.contains(tag.name)) {
                std::vector<std::string_view> known;
                for (const auto& [name, part] : parts) known.push_back(name);
                const auto near = nearestWord(tag.name, known);
                fail(where, tag.line, fmt::format("there is no part \"{}\"", tag.name),
                     near.empty() ? "Name a text that the sheet has." : fmt::format("\"{}\" perhaps?", near));
            }
            break;
        case '!':
            break;
        default:
            named("a place without a name");
        }
    }
    if (!open.empty())
        fail(where, open.back().line, fmt::format("the section \"{}\" is left open", open.back().name),
             fmt::format("Close it with {{{{/{}}}}}.", open.back().name));
}

void demandNoCircle(const TextTemplate::Parts& parts, const std::string& from, const std::string& where,
                    std::vector<std::string>& way, std::set<std::string>& done) {
    if (done.contains(from)) return;
    if (const auto at = std::ranges::find(way, from); at != way.end())
        throw Error(fmt::format("the parts {} hold one another", inARow(std::vector(at, way.end()))), where,
                    "Take one of them out of another.");
    way.push_back(from);
    for (const Tag& tag : tagsOf(parts.at(from)))
        if (tag.sigil == '>' && parts.contains(tag.name)) demandNoCircle(parts, tag.name, where, way, done);
    way.pop_back();
    done.insert(from);
}

std::string shortestNumber(const nlohmann::json& number, Escaping as) {
    if (!number.is_number_float() || as == Escaping::Json) return jsonText(number);
    return fmt::format("{}", number.get<double>());
}

mustache::data dataOf(const nlohmann::json& value, Escaping as) {
    using mustache::data;
    switch (value.type()) {
    case nlohmann::json::value_t::object: {
        data out(data::type::object);
        for (const auto& [key, entry] : value.items()) out.set(key, dataOf(entry, as));
        return out;
    }
    case nlohmann::json::value_t::array: {
        data out(data::type::list);
        for (std::size_t i = 0; i < value.size(); ++i) {
            data entry = dataOf(value[i], as);
            if (value[i].is_object()) {
                entry.set("first", data(i == 0));
                entry.set("last", data(i + 1 == value.size()));
                entry.set("number", data(std::to_string(i + 1)));
            }
            out << entry;
        }
        return out;
    }
    case nlohmann::json::value_t::string: {
        const auto& text = value.get_ref<const std::string&>();
        return text.empty() ? data(false) : data(text);
    }
    case nlohmann::json::value_t::boolean:
        return value.get<bool>() ? data("true") : data(false);
    case nlohmann::json::value_t::null:
    case nlohmann::json::value_t::discarded:
        return data(false);
    default:
        return data(shortestNumber(value, as));
    }
}

/// Data as a template asks for it: remembers names that are not there, and stops what never ends.
class AskedData final : public mustache::basic_context<std::string> {
public:
    AskedData(std::vector<const mustache::data*> data, const TextTemplate::Parts& parts, std::size_t eachTime,
              std::size_t most)
        : stack_(std::move(data)), eachTime_(eachTime), most_(most) {
        for (const auto& [name, text] : parts) parts_.emplace(name, mustache::data(text));
    }
    void push(const mustache::data* data) override {
        charge(eachTime_);
        stack_.push_back(data);
    }
    void pop() override { stack_.pop_back(); }
    const mustache::data* get(const std::string& name) const override {
        charge(1);
        if (name == ".") return stack_.back();
        for (auto item = stack_.rbegin(); item != stack_.rend(); ++item)
            if (const mustache::data* found = within(**item, name)) {
                if (found->is_string()) charge(found->string_value().size());
                return found;
            }
        if (unknown_.empty()) unknown_ = name;
        return nullptr;
    }
    const mustache::data* get_partial(const std::string& name) const override {
        charge(eachTime_);
        const auto found = parts_.find(name);
        return found == parts_.end() ? nullptr : &found->second;
    }
    const std::string& unknown() const { return unknown_; }

private:
    /// What a dotted name means below `data`; null for a name that is not there, nothing for an entry that a
    /// list is too short for.
    static const mustache::data* within(const mustache::data& data, const std::string& name) {
        static const mustache::data nothing(false);
        const mustache::data* at = &data;
        for (std::size_t start = 0; start <= name.size() && at;) {
            const std::size_t dot = std::min(name.find('.', start), name.size());
            const std::string part = name.substr(start, dot - start);
            if (at->is_list()) { // "objects.0.name"
                const auto& list = at->list_value();
                const bool isNumber = !part.empty() && part.size() < 9 &&
                                      std::ranges::all_of(part, [](char c) { return c >= '0' && c <= '9'; });
                const std::size_t index = isNumber ? std::stoul(part) : list.size();
                if (isNumber && index >= list.size()) return &nothing;
                at = isNumber ? &list[index] : nullptr;
            } else {
                at = at->get(part);
            }
            start = dot + 1;
        }
        return at;
    }
    void charge(std::size_t bytes) const {
        charged_ += bytes;
        if (charged_ > most_)
            throw Error("the text would grow beyond all bounds", {},
                        "Take sections out of one another, or leave data out.");
    }

    std::vector<const mustache::data*> stack_;
    std::map<std::string, mustache::data> parts_;
    std::size_t eachTime_, most_;
    mutable std::size_t charged_ = 0;
    mutable std::string unknown_;
};

std::string withoutQuotes(const std::string& text) {
    return text.substr(1, text.size() - 2);
}

/// All names that data has, however deep, for finding the nearest to a wrong one.
void namesIn(const nlohmann::json& value, std::set<std::string>& names) {
    if (value.is_object())
        for (const auto& [key, entry] : value.items()) names.insert(key), namesIn(entry, names);
    if (value.is_array() && !value.empty()) namesIn(value[0], names);
}

} // namespace

struct TemplateData::Held {
    mustache::data values;
    Escaping as;
    std::set<std::string> names;
};

TemplateData::TemplateData(const nlohmann::json& data, Escaping as) {
    auto held = std::make_shared<Held>(Held{dataOf(data, as), as, {}});
    namesIn(data, held->names);
    held_ = std::move(held);
}

const std::vector<std::string_view>& escapingNames() {
    static const std::vector<std::string_view> names{"none", "json", "xml", "csv", "toml", "ini"};
    return names;
}

Escaping escapingFor(std::string_view fileName) {
    static const std::map<std::string, Escaping, std::less<>> known{
        {".json", Escaping::Json}, {".xml", Escaping::Xml},   {".html", Escaping::Xml},
        {".svg", Escaping::Xml},   {".dae", Escaping::Xml},   {".x3d", Escaping::Xml},
        {".csv", Escaping::Csv},   {".toml", Escaping::Toml}, {".ini", Escaping::Ini},
        {".cfg", Escaping::Ini},   {".conf", Escaping::Ini}};
    const auto found = known.find(lowerCase(std::filesystem::path(fileName).extension().string()));
    return found == known.end() ? Escaping::None : found->second;
}

std::string escaped(std::string_view text, Escaping as) {
    const std::string valid = asUtf8(text);
    std::string out;
    switch (as) {
    case Escaping::None:
        return valid;
    case Escaping::Json:
        return withoutQuotes(jsonText(nlohmann::json(valid)));
    case Escaping::Xml:
        for (const char c : valid) {
            const auto code = static_cast<unsigned char>(c);
            if (c == '&')
                out += "&amp;";
            else if (c == '<')
                out += "&lt;";
            else if (c == '>')
                out += "&gt;";
            else if (c == '"')
                out += "&quot;";
            else if (c == '\'')
                out += "&apos;";
            else if (code >= 0x20 || c == '\t' || c == '\n')
                out += c; // others cannot stand in XML at all
        }
        return out;
    case Escaping::Csv: {
        if (valid.find_first_of(",;\t\"\r\n") == std::string::npos) return valid;
        for (const char c : valid) out += c == '"' ? std::string("\"\"") : std::string(1, c);
        return '"' + out + '"';
    }
    case Escaping::Toml:
        return withoutQuotes(tomlText(valid));
    case Escaping::Ini:
        for (const char c : valid) out += static_cast<unsigned char>(c) < 0x20 ? ' ' : c;
        return out;
    }
    return out;
}

TextTemplate::TextTemplate(std::string text, std::string where, Parts parts)
    : text_(std::move(text)), where_(std::move(where)), parts_(std::move(parts)) {
    demandSound(text_, where_, parts_);
    std::vector<std::string> way;
    std::set<std::string> done;
    for (const auto& [name, part] : parts_) {
        demandSound(part, name, parts_);
        demandNoCircle(parts_, name, where_, way, done);
    }
    if (mustache::mustache parsed(text_); !parsed.is_valid())
        throw Error(parsed.error_message(), where_, "Expected a Mustache template.");
}

std::string TextTemplate::filled(const TemplateData& data, const TemplateData* own,
                                 std::size_t mostBytes) const {
    mustache::mustache parsed(text_);
    parsed.set_custom_escape([as = data.held_->as](const std::string& value) { return escaped(value, as); });
    std::vector<const mustache::data*> values{&data.held_->values};
    if (own) values.push_back(&own->held_->values);
    std::size_t longest = text_.size();
    for (const auto& [name, part] : parts_) longest = std::max(longest, part.size());
    // Every section that is entered writes its own text at most: a bound that needs no look at what is
    // written.
    AskedData asked(std::move(values), parts_, longest, mostBytes);
    std::ostringstream out;
    try {
        parsed.render(asked, out);
    } catch (const Error& error) {
        throw Error(error.what(), where_, error.mend());
    }
    if (!parsed.is_valid()) throw Error(parsed.error_message(), where_, "Expected a Mustache template.");
    if (asked.unknown().empty()) return std::move(out).str();
    std::set<std::string> names = data.held_->names;
    if (own) names.insert(own->held_->names.begin(), own->held_->names.end());
    const std::string last = asked.unknown().substr(asked.unknown().rfind('.') + 1);
    const auto near = nearestWord(last, {names.begin(), names.end()});
    const auto tags = tagsOf(text_);
    const auto tag = std::ranges::find(tags, asked.unknown(), &Tag::name);
    fail(where_, tag == tags.end() ? 1 : tag->line, fmt::format("there is no \"{}\" here", asked.unknown()),
         near.empty() || near == last ? "The manual lists what a template can name, and where."
                                      : fmt::format("\"{}\" perhaps?", near));
}

} // namespace zl
