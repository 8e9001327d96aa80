#include "core/base/json_text.h"
#include "core/base/pattern.h"
#include "core/base/utf8.h"
#include "core/fields/field.h"

namespace zl::fields {

void refuseValue(const Field& field, const nlohmann::json& value, const std::string& expected) {
    const std::string shown = jsonText(value);
    throw Error(fmt::format("\"{}\" cannot be {}", field.name, shortened(shown, 200)), {},
                "Expected " + expected + ".");
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

namespace {

std::string emptyIs(const Field& field) {
    return field.leastMeans.empty() ? std::string() : fmt::format("; empty is {}", field.leastMeans);
}

class Flag final : public FieldType {
public:
    std::string_view name() const override { return "flag"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        if (!value.is_boolean()) refuseValue(field, value, "true or false");
        return value;
    }
    std::string describe(const Field&) const override { return "`true` or `false`"; }
};

class ChoiceType final : public FieldType {
public:
    std::string_view name() const override { return "choice"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        std::string all;
        for (std::size_t i = 0; i < field.choices.size(); ++i) {
            if (value.is_string() && value.get_ref<const std::string&>() == field.choices[i].id) return i;
            all += fmt::format("{}{}", i ? ", " : "one of ", field.choices[i].id);
        }
        refuseValue(field, value, all);
    }
    nlohmann::json print(const Field& field, const nlohmann::json& held) const override {
        return field.choices[held.get<std::size_t>()].id;
    }
    std::string describe(const Field& field) const override {
        std::string choices;
        for (const Choice& choice : field.choices)
            choices += fmt::format("{}`{}` {}", choices.empty() ? "" : ", ", choice.id, choice.label);
        return choices;
    }
};

class Text final : public FieldType {
public:
    std::string_view name() const override { return "text"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        return checkedText(field, value);
    }
    std::string describe(const Field& field) const override { return "text" + emptyIs(field); }
};

/// Whether the sheet knows it is seen where the sheet is.
class Word final : public FieldType {
public:
    std::string_view name() const override { return "word"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        return checkedText(field, value);
    }
    std::string describe(const Field&) const override {
        return "a word that the sheet has; empty is the sheet's first";
    }
};

/// A list in JSON; one text with commas, as recipes had it once, is read too.
class Parts final : public FieldType {
public:
    std::string_view name() const override { return "parts"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        constexpr std::size_t most = 100000;
        if (value.is_string()) return patternsFrom(checkedText(field, value));
        const std::string expected = fmt::format("a list of at most {} names", most);
        if (!value.is_array() || value.size() > most) refuseValue(field, value, expected);
        for (const auto& pattern : value)
            if (!pattern.is_string()) refuseValue(field, pattern, "a name in quotation marks");
        return value;
    }
    std::string describe(const Field& field) const override { return "`[\"name\", …]`" + emptyIs(field); }
};

} // namespace

const FieldType& flag() {
    static const Flag type;
    return type;
}
const FieldType& choice() {
    static const ChoiceType type;
    return type;
}
const FieldType& text() {
    static const Text type;
    return type;
}
const FieldType& word() {
    static const Word type;
    return type;
}
const FieldType& parts() {
    static const Parts type;
    return type;
}

} // namespace zl::fields
