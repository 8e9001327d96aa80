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

std::string jsonText(const nlohmann::json& value, int indent) {
    return value.dump(indent, ' ', false, nlohmann::json::error_handler_t::replace);
}
std::string jsonText(const nlohmann::ordered_json& value, int indent) {
    return value.dump(indent, ' ', false, nlohmann::ordered_json::error_handler_t::replace);
}

} // namespace zl
