#include "core/fields/field.h"

namespace zl::fields {

namespace {

class Point final : public FieldType {
public:
    std::string_view name() const override { return "point"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        if (!value.is_array() || value.size() != 3) refuseValue(field, value, "three numbers [x, y, z]");
        for (const auto& number : value) // not-a-number is in no range
            if (!number.is_number() || !(std::abs(number.get<double>()) <= field.most))
                refuseValue(field, value, fmt::format("three numbers [x, y, z] of at most {:g}", field.most));
        return value;
    }
    std::string describe(const Field&) const override { return "`[x, y, z]` in metres"; }
};

class ColourType final : public FieldType {
public:
    std::string_view name() const override { return "colour"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        const std::string* text = value.is_string() ? &value.get_ref<const std::string&>() : nullptr;
        if (!text || text->size() != 7 || (*text)[0] != '#' ||
            text->find_first_not_of("0123456789abcdefABCDEF", 1) != std::string::npos)
            refuseValue(field, value, "a colour \"#rrggbb\"");
        auto rgb = nlohmann::json::array();
        for (int k = 0; k < 3; ++k) rgb.push_back(std::stoi(text->substr(1 + 2 * k, 2), nullptr, 16));
        return rgb;
    }
    nlohmann::json print(const Field&, const nlohmann::json& held) const override {
        return fmt::format("#{:02x}{:02x}{:02x}", held[0].get<int>(), held[1].get<int>(), held[2].get<int>());
    }
    std::string describe(const Field&) const override { return "`\"#rrggbb\"`"; }
};

} // namespace

const FieldType& point() {
    static const Point type;
    return type;
}
const FieldType& colour() {
    static const ColourType type;
    return type;
}

} // namespace zl::fields
