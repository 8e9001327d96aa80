#include "standins/circuit/car_settings.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include <optional>

namespace zl::standins::circuit {

std::map<std::string, std::map<std::string, float>> readCarSettings(const std::string& text,
                                                                    std::string& problem) {
    std::map<std::string, std::map<std::string, float>> out;
    try {
        const toml::table table = toml::parse(text);
        const auto* list = table["material"].as_array();
        if (!list) {
            problem = "it has no [[material]]";
            return out;
        }
        for (const toml::node& entry : *list) {
            const auto* material = entry.as_table();
            const auto name =
                material ? (*material)["name"].value<std::string>() : std::optional<std::string>();
            if (!name) {
                problem = "a material has no name";
                return out;
            }
            auto& settings = out[*name];
            if (const auto* values = (*material)["settings"].as_table())
                for (const auto& [key, value] : *values)
                    if (value.is_number()) settings[std::string(key.str())] = value.value_or(0.0f);
        }
    } catch (const toml::parse_error& error) {
        problem = fmt::format("line {}: {}", error.source().begin.line, std::string(error.description()));
    }
    return out;
}

} // namespace zl::standins::circuit
