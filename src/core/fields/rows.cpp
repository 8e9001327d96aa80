#include "core/fields/table.h"

namespace zl::fields {

namespace {

/// Each row is an object of the row's fields; those that it does not name are as in a new row, so that rows
/// written before a field was thought of are still read.
class List final : public FieldType {
public:
    std::string_view name() const override { return "list"; }

    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        constexpr std::size_t most = 10000;
        if (!value.is_array() || value.size() > most)
            refuseValue(field, value, fmt::format("a list of at most {} rows", most));
        auto rows = nlohmann::json::array();
        const nlohmann::json fresh = field.emptyRow();
        for (std::size_t i = 0; i < value.size(); ++i) {
            if (!value[i].is_object()) refuseValue(field, value[i], "{\"name\": value, …} for each row");
            auto row = nlohmann::json::object();
            for (const Field& f : field.rowFields) {
                const auto given = value[i].find(f.name);
                row[std::string(f.name)] =
                    f.type().read(f, given == value[i].end() ? fresh.at(std::string(f.name)) : *given);
            }
            for (const auto& [name, ignored] : value[i].items())
                if (!named(field.rowFields, name))
                    refuseValue(field, value[i], fmt::format("no \"{}\" in row {}", name, i + 1));
            rows.push_back(std::move(row));
        }
        return rows;
    }

    nlohmann::json print(const Field& field, const nlohmann::json& held) const override {
        auto rows = nlohmann::json::array();
        for (const auto& row : held) {
            rows.push_back(nlohmann::json::object());
            for (const Field& f : field.rowFields)
                rows.back()[std::string(f.name)] = f.type().print(f, row.at(std::string(f.name)));
        }
        return rows;
    }

    std::string describe(const Field& field) const override {
        std::string row;
        for (const Field& f : field.rowFields)
            row += fmt::format("{}`{}`: {}", row.empty() ? "" : ", ", f.name, f.type().describe(f));
        return "a list of rows with " + row;
    }
};

} // namespace

const FieldType& list() {
    static const List type;
    return type;
}

} // namespace zl::fields
