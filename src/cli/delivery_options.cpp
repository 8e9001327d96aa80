#include "cli/command.h"

#include "core/base/json_text.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

namespace zl::cli {

void DeliveryOptions::declare(CLI::App& app) {
    std::map<std::string, std::string> told; // several deliverables have fields of one name
    for (const auto& deliverable : deliver::allDeliverables())
        for (const auto& field : deliverable->fields()) {
            std::string& text = told[std::string(field.name)];
            text += fmt::format("{}{} ({})", text.empty() ? "" : " ", field.explanation,
                                deliverable->info().name);
        }
    for (const auto& [name, text] : told) app.add_option("--" + name, values_[name], text);
}

nlohmann::json DeliveryOptions::over(nlohmann::json params, const platform::Sheet& sheet) const {
    const auto deliverable = deliver::deliverableFor(sheet);
    for (const auto& [name, text] : values_) {
        if (text.empty()) continue;
        const auto* field = fields::named(deliverable->fields(), name);
        if (!field)
            throw Error(fmt::format("{} has no --{}", deliverable->info().name, name), sheet.name,
                        "Leave it out.");
        const auto read = field->type().isNumber() || field->isOf(fields::flag) ? parsedJson(text, nullptr)
                                                                                : nlohmann::json(text);
        params[name] = read.is_discarded() ? nlohmann::json(text) : read;
    }
    return params;
}

} // namespace zl::cli
