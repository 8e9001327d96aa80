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
    // What a sheet asks has its name there, and which sheet it is is not known yet.
    app.allow_extras();
    app_ = &app;
}

/// `--NAME VALUE` and `--NAME=VALUE` that no command declares.
std::map<std::string, std::string> DeliveryOptions::others() const {
    std::map<std::string, std::string> out;
    const auto words = app_ ? app_->remaining() : std::vector<std::string>{};
    for (std::size_t i = 0; i < words.size(); ++i) {
        const std::string& word = words[i];
        const std::size_t equals = word.find('=');
        if (!word.starts_with("--"))
            throw Error(fmt::format("\"{}\" is not understood", word), {}, "Run with --help.");
        if (equals != std::string::npos)
            out[word.substr(2, equals - 2)] = word.substr(equals + 1);
        else if (i + 1 < words.size())
            out[word.substr(2)] = words[i + 1], ++i;
        else
            throw Error(fmt::format("{} says nothing", word), {}, "Put a value behind it.");
    }
    return out;
}

nlohmann::json DeliveryOptions::over(nlohmann::json params, const platform::Sheet& sheet) const {
    const auto deliverable = deliver::deliverableFor(sheet);
    auto given = values_;
    given.merge(others());
    for (const auto& [name, text] : given) {
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
