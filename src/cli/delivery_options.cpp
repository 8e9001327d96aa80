#include "cli/command.h"

#include "core/base/json_text.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

namespace zl::cli {

void DeliveryOptions::declare(CLI::App& app) {
    for (const auto& deliverable : deliver::allDeliverables())
        for (const auto& field : deliverable->fields()) {
            const std::string name(field.name);
            if (values_.contains(name)) continue; // several deliverables have one of this name
            app.add_option("--" + name, values_[name],
                           fmt::format("{} ({})", field.explanation, deliverable->info().name));
        }
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
