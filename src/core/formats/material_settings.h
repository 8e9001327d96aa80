#pragma once
#include "core/files/source_file.h"
#include "core/formats/tinygltf.h"
#include "core/model/model.h"

namespace zl::formats {

// Material::settings, in the two places where files keep them: a table "NAME.materials.toml" beside the model
// (docs/formats/material-settings.md) and a material's `extras` in glTF, {"settings": {"shine": 0.8}}.

/// As a TOML file; settings in the order of their names, materials without any left out. Empty when no
/// material has any.
std::string settingsTable(const std::vector<Material>& materials);

/// Settings by material from such a table. Throws Error with the line for what is none.
std::map<std::string, MaterialSettings> settingsFrom(std::string_view text, const std::string& where);

/// Gives a model that was read from `source` the settings of the table beside it, where there is one. What
/// names no material of the model, and a table that is none, is a warning.
void readSettingsBeside(files::SourceFile& source, Model& model);

/// Settings in a material's extras; what is neither true, a number nor a text is left out.
MaterialSettings settingsIn(const tinygltf::Value& extras);
tinygltf::Value settingsValue(const MaterialSettings& settings);

} // namespace zl::formats
