#pragma once
#include "core/deliver/deliver.h"
#include "core/formats/format.h"

#include <nlohmann/json_fwd.hpp>

namespace zl::deliver {

/// How files are written for a platform: its file unit (the importer's factor taken off), axes and front.
formats::WriteOptions writeOptionsFor(const platform::Sheet& sheet, const std::string& name);

/// The model turned and scaled into the platform's own numbers and axes with nothing left on its nodes, for
/// files that are to carry no transform.
Model bakedFor(const platform::Sheet& sheet, const Model& model);

/// How pictures lie goes into the UVs, for games that know of no other way; a material whose pictures lie
/// each another way keeps that.
Model withPicturesPlaced(Model model);

/// Without its pictures, for files that these lie beside; UVs as the pictures lay on them.
Model withoutPictures(Model model);

/// COLLADA in the platform's own numbers and axes, with nothing left on its nodes.
std::vector<OutFile> bakedCollada(const platform::Sheet& sheet, const Model& model, const std::string& name);

/// The names of the files from number `first` on, as a list for a file that says what belongs together.
nlohmann::json namesFrom(const std::vector<OutFile>& files, std::size_t first);

/// Every mesh with normals; those that had none get them by angle (geometry::withNormals).
Model withNormalsAdded(const Model& model, double creaseRadians = 0.7);

} // namespace zl::deliver
