#include "core/fields/field.h"

namespace zl::fields {

nlohmann::json FieldType::print(const Field&, const nlohmann::json& held) const {
    return held;
}

namespace {

class Number : public FieldType {
public:
    Number(std::string_view name, std::string_view unit) : name_(name), unit_(unit) {}
    std::string_view name() const override { return name_; }
    bool isNumber() const override { return true; }

    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        const std::string expected =
            fmt::format("a {}number from {} to {}", isWhole() ? "whole " : "", field.least, field.most);
        if (!value.is_number()) refuseValue(field, value, expected);
        const double read = value.get<double>();
        if (!std::isfinite(read) || read < field.least || read > field.most ||
            (isWhole() && read != std::floor(read)))
            refuseValue(field, value, expected);
        return value;
    }

    /// The unit and the range; a limit beyond any use is not said.
    std::string describe(const Field& field) const override {
        constexpr double beyondUse = 1e6;
        std::string out(unit_);
        if (field.least > -beyondUse && field.most < beyondUse)
            out += fmt::format(", {} to {}", field.least, field.most);
        else if (field.least > -beyondUse)
            out += fmt::format(", {} or more", field.least);
        if (!field.leastMeans.empty()) out += fmt::format("; {} is {}", field.least, field.leastMeans);
        return out;
    }

protected:
    virtual bool isWhole() const { return false; }

private:
    std::string_view name_, unit_;
};

class Count final : public Number {
public:
    Count() : Number("count", "a whole number") {}
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        return static_cast<long long>(Number::read(field, value).get<double>());
    }

protected:
    bool isWhole() const override { return true; }
};

class Angle final : public Number {
public:
    Angle() : Number("angle", "degrees") {}
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        return Number::read(field, value).get<double>() * degree;
    }
    nlohmann::json print(const Field&, const nlohmann::json& held) const override {
        return std::round(held.get<double>() / degree * 1e9) / 1e9;
    }

private:
    static constexpr double degree = 3.14159265358979323846 / 180;
};

} // namespace

const FieldType& number() {
    static const Number type("number", "a number");
    return type;
}
const FieldType& length() {
    static const Number type("length", "metres");
    return type;
}
const FieldType& share() {
    static const Number type("share", "a share");
    return type;
}
const FieldType& count() {
    static const Count type;
    return type;
}
const FieldType& angle() {
    static const Angle type;
    return type;
}

} // namespace zl::fields
