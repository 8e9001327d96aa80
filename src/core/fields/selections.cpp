#include "core/fields/field.h"

namespace zl::fields {

namespace {

class SelectionType final : public FieldType {
public:
    std::string_view name() const override { return "selection"; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        try {
            return selection::toJson(selection::fromJson(value));
        } catch (const Error& error) {
            throw Error(fmt::format("\"{}\": {}", field.name, error.what()), {}, error.mend());
        }
    }
    std::string describe(const Field& field) const override {
        return "a [selection](selections.md)" +
               (field.leastMeans.empty() ? std::string() : fmt::format("; empty is {}", field.leastMeans));
    }
};

} // namespace

const FieldType& selection() {
    static const SelectionType type;
    return type;
}

} // namespace zl::fields
