#include "core/steps/step.h"
#include "core/base/words.h"

namespace zl::steps {

namespace {

constexpr double degree = 3.14159265358979323846 / 180;

const Field* named(std::span<const Field> fields, std::string_view name) {
    for (const Field& field : fields)
        if (field.name == name) return &field;
    return nullptr;
}

nlohmann::json outside(const Field& field, const void* data) {
    nlohmann::json value = field.get(data);
    if (field.kind == FieldKind::Choice) return field.choices[value.get<std::size_t>()].id;
    if (field.kind == FieldKind::Angle) return std::round(value.get<double>() / degree * 1e9) / 1e9;
    return value;
}

const Step& listed(std::string_view id) {
    for (const auto& step : allSteps())
        if (step->info().id == id) return *step;
    throw Error(fmt::format("there is no step \"{}\"", id), {},
                "Use one of " + inARow(allSteps(), [](const auto& step) { return step->info().id; }) + ".");
}

} // namespace

std::string_view stageName(Stage stage) {
    constexpr std::string_view names[] = {"Gather", "Place",   "Shape",  "Surface",
                                          "Motion", "Contact", "Deliver"};
    return names[static_cast<int>(stage)];
}

nlohmann::ordered_json Step::params() const {
    nlohmann::ordered_json out = nlohmann::ordered_json::object();
    for (const Field& field : fields()) out[std::string(field.name)] = outside(field, data());
    return out;
}

void Step::setParams(const nlohmann::json& values) {
    const std::string where(info().id);
    if (!values.is_object())
        throw Error("parameters are not an object", where, "Expected {\"name\": value, …}.");
    for (const auto& [name, value] : values.items()) {
        const Field* field = named(fields(), name);
        if (!field) {
            const std::string all = inARow(fields(), &Field::name);
            throw Error(fmt::format("has no parameter \"{}\"", name), where,
                        all.empty() ? "It takes none." : "It takes " + all + ".");
        }
        try {
            if (field->kind == FieldKind::Angle) {
                checkedNumber(*field, value);
                Field open = *field; // the range is stated in degrees, the struct holds radians
                open.least = -1e9, open.most = 1e9;
                field->set(data(), value.get<double>() * degree, open);
            } else {
                field->set(data(), value, *field);
            }
        } catch (const Error& error) {
            throw Error(error.what(), where, error.mend());
        }
    }
}

bool Step::isShown(const Field& field) const {
    if (field.whenField.empty()) return true;
    const Field* other = named(fields(), field.whenField);
    if (!other) return true;
    const nlohmann::json now = outside(*other, data());
    const std::string value = now.is_boolean() ? (now.get<bool>() ? "yes" : "no") : now.get<std::string>();
    std::string_view rest = field.whenValues;
    while (!rest.empty()) {
        const std::size_t space = rest.find(' ');
        if (rest.substr(0, space) == value) return true;
        rest = space == std::string_view::npos ? std::string_view{} : rest.substr(space + 1);
    }
    return false;
}

std::unique_ptr<Step> makeStep(std::string_view id) {
    return listed(id).clone();
}

std::unique_ptr<Step> makeStep(std::string_view id, const nlohmann::json& params) {
    auto step = makeStep(id);
    step->setParams(params);
    return step;
}

const StepInfo& infoOf(std::string_view id) {
    return listed(id).info();
}

} // namespace zl::steps
