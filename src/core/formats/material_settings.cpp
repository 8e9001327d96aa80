#include "core/formats/material_settings.h"

#include "core/base/error.h"
#include "core/base/toml_text.h"
#include "core/base/utf8.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include <algorithm>
#include <cctype>
#include <cmath>

namespace zl::formats {

namespace {

[[noreturn]] void fail(const toml::node& at, const std::string& where, const std::string& what,
                       const std::string& expected) {
    throw Error(what, fmt::format("{}:{}", where, at.source().begin.line), "Expected " + expected + ".");
}

MaterialSetting settingOf(const toml::node& node, const std::string& where, std::string_view name) {
    if (const auto* flag = node.as_boolean()) return flag->get();
    if (const auto* text = node.as_string()) return text->get();
    const auto number = node.value<double>();
    if (!number || !std::isfinite(*number))
        fail(node, where, fmt::format("\"{}\" is no value of a setting", name),
             "true or false, a number or a text in quotation marks");
    return *number;
}

} // namespace

std::string settingsTable(const std::vector<Material>& materials) {
    std::string out;
    for (const Material& material : materials) {
        if (material.settings.empty()) continue;
        out += fmt::format("{}[[material]]\nname = {}\n[material.settings]\n", out.empty() ? "" : "\n",
                           tomlText(material.name));
        for (const auto& [name, value] : material.settings)
            out += tomlKey(name) + " = " + tomlText(value) + "\n";
    }
    return out;
}

std::map<std::string, MaterialSettings> settingsFrom(std::string_view text, const std::string& where) {
    std::map<std::string, MaterialSettings> out;
    toml::table table;
    try {
        table = toml::parse(text, where);
    } catch (const toml::parse_error& problem) {
        throw Error(std::string(problem.description()),
                    fmt::format("{}:{}", where, problem.source().begin.line),
                    "Expected TOML: `key = value` lines and [[material]] sections.");
    }
    const toml::node* list = table.get("material");
    if (!list || !list->is_array()) fail(table, where, "has no materials", "[[material]] sections");
    for (const toml::node& entry : *list->as_array()) {
        const auto* material = entry.as_table();
        const auto* name = material ? material->get_as<std::string>("name") : nullptr;
        if (!name) fail(entry, where, "a material has no name", "`name = \"…\"` below [[material]]");
        const toml::node* settings = material->get("settings");
        if (!settings) continue;
        if (!settings->is_table()) fail(*settings, where, "settings are no section", "[material.settings]");
        for (const auto& [key, value] : *settings->as_table())
            out[name->get()][std::string(key.str())] = settingOf(value, where, key.str());
    }
    return out;
}

void readSettingsBeside(files::SourceFile& source, Model& model) {
    const auto beside = source.beside(source.stem() + ".materials.toml");
    if (!beside) return;
    try {
        const auto bytes = source.bytes(*beside);
        const auto settings = settingsFrom(asUtf8(std::string(bytes.text())), beside->name);
        for (const auto& [name, values] : settings) {
            bool known = false;
            for (Material& material : model.materials)
                if (material.name == name) material.settings = values, known = true;
            if (!known)
                model.warnings.push_back(
                    fmt::format("{} names a material \"{}\" that the model has not", beside->name, name));
        }
    } catch (const Error& error) {
        model.warnings.push_back(error.whole());
    }
}

MaterialSettings settingsIn(const tinygltf::Value& extras) {
    MaterialSettings out;
    if (!extras.IsObject() || !extras.Has("settings") || !extras.Get("settings").IsObject()) return out;
    const tinygltf::Value& settings = extras.Get("settings");
    for (const std::string& key : settings.Keys()) {
        const tinygltf::Value& value = settings.Get(key);
        if (value.IsBool())
            out[asUtf8(key)] = value.Get<bool>();
        else if (value.IsNumber() && std::isfinite(value.GetNumberAsDouble()))
            out[asUtf8(key)] = value.GetNumberAsDouble();
        else if (value.IsString())
            out[asUtf8(key)] = asUtf8(value.Get<std::string>());
    }
    return out;
}

tinygltf::Value settingsValue(const MaterialSettings& settings) {
    tinygltf::Value::Object out;
    for (const auto& [name, value] : settings)
        out[name] = std::visit([](const auto& held) { return tinygltf::Value(held); }, value);
    return tinygltf::Value(tinygltf::Value::Object{{"settings", tinygltf::Value(std::move(out))}});
}

} // namespace zl::formats
