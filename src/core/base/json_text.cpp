#include "core/base/json_text.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace zl {

nlohmann::json parsedJson(std::string_view text, std::string* fault) {
    try {
        return nlohmann::json::parse(text);
    } catch (const nlohmann::json::parse_error& problem) {
        const std::size_t end = std::min(problem.byte, text.size());
        if (fault)
            *fault =
                fmt::format("breaks off in line {}", std::count(text.begin(), text.begin() + end, '\n') + 1);
    } catch (const nlohmann::json::out_of_range&) {
        if (fault) *fault = "holds a number beyond all bounds";
    }
    return nlohmann::json::value_t::discarded;
}

nlohmann::json parsedHandJson(std::string_view text) {
    // Commas that close nothing become blanks; comments are the parser's own, and only passed over here.
    std::string plain(text);
    std::size_t comma = std::string::npos;
    for (std::size_t at = 0; at < plain.size(); ++at) {
        const char c = plain[at];
        if (c == '"') {
            while (++at < plain.size() && plain[at] != '"')
                if (plain[at] == '\\') ++at;
            comma = std::string::npos;
        } else if (c == '/' && plain.compare(at, 2, "//") == 0) {
            at = std::min(plain.find('\n', at), plain.size());
        } else if (c == '/' && plain.compare(at, 2, "/*") == 0) {
            const std::size_t end = plain.find("*/", at + 2);
            at = end == std::string::npos ? plain.size() : end + 1;
        } else if (c == ',') {
            comma = at;
        } else if ((c == '}' || c == ']') && comma != std::string::npos) {
            plain[comma] = ' ';
            comma = std::string::npos;
        } else if (static_cast<unsigned char>(c) > ' ') {
            comma = std::string::npos;
        }
    }
    try {
        return nlohmann::json::parse(plain, nullptr, true, true);
    } catch (const nlohmann::json::exception&) {
        return nlohmann::json::value_t::discarded;
    }
}

std::string jsonText(const nlohmann::json& value, int indent) {
    return value.dump(indent, ' ', false, nlohmann::json::error_handler_t::replace);
}
std::string jsonText(const nlohmann::ordered_json& value, int indent) {
    return value.dump(indent, ' ', false, nlohmann::ordered_json::error_handler_t::replace);
}

} // namespace zl
