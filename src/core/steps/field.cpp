#include "core/steps/field.h"

#include "core/base/json_text.h"
#include "core/base/pattern.h"
#include "core/base/utf8.h"

namespace zl::steps {

void refuseValue(const Field& field, const nlohmann::json& value, const std::string& expected) {
    const std::string shown = jsonText(value);
    throw Error(fmt::format("\"{}\" cannot be {}", field.name, shortened(shown, 200)), {},
                "Expected " + expected + ".");
}

std::string_view fieldKindName(FieldKind kind) {
    constexpr std::string_view names[] = {"number", "length", "angle", "share", "count",
                                          "choice", "flag",   "point", "text",  "parts"};
    return names[static_cast<int>(kind)];
}

double checkedNumber(const Field& field, const nlohmann::json& value) {
    const bool whole = field.kind == FieldKind::Count;
    const std::string expected =
        fmt::format("a {}number from {} to {}", whole ? "whole " : "", field.least, field.most);
    if (!value.is_number()) refuseValue(field, value, expected);
    const double number = value.get<double>();
    if (!std::isfinite(number) || number < field.least || number > field.most ||
        (whole && number != std::floor(number)))
        refuseValue(field, value, expected);
    return number;
}

int checkedChoice(const Field& field, const nlohmann::json& value) {
    std::string all;
    for (std::size_t i = 0; i < field.choices.size(); ++i) {
        if (value.is_string() && value.get<std::string>() == field.choices[i].id) return static_cast<int>(i);
        all += fmt::format("{}{}", i ? ", " : "one of ", field.choices[i].id);
    }
    refuseValue(field, value, all);
}

glm::dvec3 checkedPoint(const Field& field, const nlohmann::json& value) {
    glm::dvec3 point;
    if (!value.is_array() || value.size() != 3) refuseValue(field, value, "three numbers [x, y, z]");
    for (int k = 0; k < 3; ++k) {
        // Not-a-number is in no range.
        if (!value[k].is_number() || !(std::abs(value[k].get<double>()) <= field.most))
            refuseValue(field, value, fmt::format("three numbers [x, y, z] of at most {:g}", field.most));
        point[k] = value[k].get<double>();
    }
    return point;
}

std::string checkedText(const Field& field, const nlohmann::json& value) {
    constexpr std::size_t most = 500;
    if (!value.is_string() || value.get_ref<const std::string&>().size() > most)
        refuseValue(field, value, fmt::format("a text of at most {} characters", most));
    const auto& text = value.get_ref<const std::string&>();
    for (const char c : text)
        if (static_cast<unsigned char>(c) < ' ') refuseValue(field, value, "a text without line ends");
    return text;
}

PartNames checkedParts(const Field& field, const nlohmann::json& value) {
    constexpr std::size_t most = 100000;
    if (value.is_string()) return {patternsFrom(checkedText(field, value))};
    const std::string expected = fmt::format("a list of at most {} names", most);
    if (!value.is_array() || value.size() > most) refuseValue(field, value, expected);
    PartNames parts;
    for (const auto& pattern : value) {
        if (!pattern.is_string()) refuseValue(field, pattern, "a name in quotation marks");
        parts.patterns.push_back(pattern.get<std::string>());
    }
    return parts;
}

} // namespace zl::steps
