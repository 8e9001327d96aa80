#pragma once
#include <nlohmann/json_fwd.hpp>

#include <string>
#include <string_view>

namespace zl {

/// What a text says in JSON; a value that `is_discarded()` when it is no JSON. `fault`, where given, then
/// says why: "breaks off in line 3", or "holds a number beyond all bounds". JSON's reader and writer are
/// large templates; here they are compiled once.
nlohmann::json parsedJson(std::string_view text, std::string* fault = nullptr);

/// As parsedJson, of what people write by hand and many programs take: with comments (// and /* */), and with
/// commas behind the last member of an object or list.
nlohmann::json parsedHandJson(std::string_view text);

/// As text: in one line, or a line for each value, `indent` spaces for each depth. Numbers never follow the
/// user's language. Bytes that are not UTF-8 become U+FFFD.
std::string jsonText(const nlohmann::json& value, int indent = -1);
std::string jsonText(const nlohmann::ordered_json& value, int indent = -1);

} // namespace zl
