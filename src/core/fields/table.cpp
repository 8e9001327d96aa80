#include "core/fields/table.h"

#include "core/base/json_text.h"
#include "core/base/words.h"

namespace zl::fields {

namespace {

nlohmann::json outside(const Field& field, const void* owner) {
    return field.type().print(field, field.get(owner));
}

} // namespace

const Field* named(std::span<const Field> fields, std::string_view name) {
    for (const Field& field : fields)
        if (field.name == name) return &field;
    return nullptr;
}

nlohmann::ordered_json printed(std::span<const Field> fields, const void* owner) {
    nlohmann::ordered_json out = nlohmann::ordered_json::object();
    for (const Field& field : fields) out[std::string(field.name)] = outside(field, owner);
    return out;
}

void readInto(std::span<const Field> fields, void* owner, const nlohmann::json& values,
              const std::string& where) {
    if (!values.is_object())
        throw Error("parameters are not an object", where, "Expected {\"name\": value, …}.");
    std::vector<std::pair<const Field*, nlohmann::json>> read;
    for (const auto& [name, value] : values.items()) {
        const Field* field = named(fields, name);
        if (!field) {
            const std::string all = inARow(fields, &Field::name);
            throw Error(fmt::format("has no parameter \"{}\"", name), where,
                        all.empty() ? "It takes none." : "It takes " + all + ".");
        }
        try {
            read.emplace_back(field, field->type().read(*field, value));
        } catch (const Error& error) {
            throw Error(error.what(), where, error.mend());
        }
    }
    for (const auto& [field, held] : read) field->set(owner, held);
}

bool isShown(std::span<const Field> fields, const void* owner, const Field& field) {
    if (field.whenField.empty()) return true;
    const Field* other = named(fields, field.whenField);
    if (!other) return true;
    const nlohmann::json now = outside(*other, owner);
    const std::string value = now.is_boolean() ? (now.get<bool>() ? "yes" : "no") : now.get<std::string>();
    std::string_view rest = field.whenValues;
    while (!rest.empty()) {
        const std::size_t space = rest.find(' ');
        if (rest.substr(0, space) == value) return true;
        rest = space == std::string_view::npos ? std::string_view{} : rest.substr(space + 1);
    }
    return false;
}

namespace {

std::string whenItCounts(std::span<const Field> fields, const Field& field) {
    if (field.whenField.empty()) return {};
    std::string_view label = field.whenField;
    if (const Field* other = named(fields, field.whenField)) label = other->label;
    std::string values(field.whenValues);
    for (std::size_t at = 0; (at = values.find(' ', at)) != std::string::npos; at += 6)
        values.replace(at, 1, "`, or `");
    return fmt::format(" Counts when *{}* is `{}`.", label, values);
}

} // namespace

std::string manualTable(std::span<const Field> fields, const nlohmann::ordered_json& defaults) {
    if (fields.empty()) return "\nIt takes no parameters.\n";
    std::string out = "\n| parameter | | takes | default | |\n|---|---|---|---|---|\n";
    for (const Field& field : fields)
        out += fmt::format("| `{}` | {} | {} | `{}` | {}{} |\n", field.name, field.label,
                           field.type().describe(field), jsonText(defaults[std::string(field.name)]),
                           field.explanation, whenItCounts(fields, field));
    return out;
}

} // namespace zl::fields
