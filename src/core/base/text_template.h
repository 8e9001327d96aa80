#pragma once
#include <nlohmann/json_fwd.hpp>

#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace zl {

/// How a value that goes into a text is written there, so that it stays one value.
enum class Escaping { None, Json, Xml, Csv, Toml, Ini };

/// By a file's ending: of `.json`, `.xml` and formats written in XML, `.csv`, `.toml`, and `.ini`, `.cfg`;
/// any other is a text without rules.
Escaping escapingFor(std::string_view fileName);
/// "json", "xml", …, "none"; every way of writing, in the order of the enum.
const std::vector<std::string_view>& escapingNames();

/// `text` as it stands within a value of that kind of file: in JSON, TOML and XML without the quotation marks
/// around it, in CSV with them where they are needed (RFC 4180), in INI in one line.
std::string escaped(std::string_view text, Escaping as);

/// What templates can name (an object), made ready once for many texts of one kind of file.
class TemplateData {
public:
    TemplateData(const nlohmann::json& data, Escaping as);

private:
    friend class TextTemplate;
    struct Held;
    std::shared_ptr<const Held> held_;
};

/// A text with places to fill in, in the language Mustache (mustache(5)): `{{name}}` is a value written for
/// its kind of file, `{{{name}}}` the same as it is, `{{#list}}…{{/list}}` once for each entry,
/// `{{^list}}…{{/list}}` where there is none, `{{> part}}` another text. Other marks than braces cannot be
/// chosen. Nobody vouches for a template: one that never ends, or grows beyond all bounds, is an error.
class TextTemplate {
public:
    /// Other texts by the name that `{{> name}}` has for them.
    using Parts = std::map<std::string, std::string>;

    /// `where` names it in messages. Throws Error with the line for a text that is no template, for a part
    /// that is not there, and for parts that hold one another.
    TextTemplate(std::string text, std::string where, Parts parts = {});

    /// The text with `data` in its places; what `own` has, where it is given, is meant before that. A flag
    /// that is false, an empty text and null are nothing; each entry of a list also knows `first`, `last` and
    /// `number` (from 1). Throws Error with the line for a name that `data` does not have there, and where it
    /// would grow beyond `mostBytes`.
    std::string filled(const TemplateData& data, const TemplateData* own = nullptr,
                       std::size_t mostBytes = 64u << 20) const;

private:
    std::string text_, where_;
    Parts parts_;
};

} // namespace zl
