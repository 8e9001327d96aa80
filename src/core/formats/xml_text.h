#pragma once
#include <pugixml.hpp>

#include <charconv>
#include <string>
#include <string_view>

namespace zl::formats {

/// The text without the characters that XML 1.0 forbids (section 2.2): control characters other than tab and
/// line ends.
inline std::string xmlText(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (const auto u = static_cast<unsigned char>(c); u < ' ' && c != '\t' && c != '\n' && c != '\r')
            c = ' ';
    return out;
}

/// Sets an attribute to a number, shortest and with a point whatever the user's language (the library's own
/// way follows it).
template <class T>
void setNumber(pugi::xml_attribute attribute, T value) {
    char digits[32];
    *std::to_chars(digits, digits + sizeof digits - 1, value).ptr = '\0';
    attribute.set_value(digits);
}

/// Takes what the library prints as a text: a stream would follow the user's language.
class XmlText final : public pugi::xml_writer {
public:
    void write(const void* data, std::size_t size) override {
        text.append(static_cast<const char*>(data), size);
    }
    std::string text;
};

/// A whole document with its declaration, or one node as it is, in UTF-8. `indent` for each level; flags are
/// the library's.
inline std::string printedXml(const pugi::xml_document& document, const char* indent = "",
                              unsigned flags = pugi::format_default) {
    XmlText out;
    document.save(out, indent, flags, pugi::encoding_utf8);
    return std::move(out.text);
}
inline std::string printedXml(const pugi::xml_node& node) {
    XmlText out;
    node.print(out, "", pugi::format_raw, pugi::encoding_utf8);
    return std::move(out.text);
}

} // namespace zl::formats
