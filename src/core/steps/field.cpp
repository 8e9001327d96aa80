#include "core/steps/field.h"

namespace zl::steps {

void refuseValue(const Field& field, const nlohmann::json& value, const std::string& expected) {
    throw Error(fmt::format("\"{}\" cannot be {}", field.name, value.dump()), {},
                "Expected " + expected + ".");
}

std::string_view fieldKindName(FieldKind kind) {
    constexpr std::string_view names[] = {"number", "length", "angle", "share", "count",
                                          "choice", "flag",   "point", "text"};
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

} // namespace zl::steps
