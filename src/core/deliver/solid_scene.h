#pragma once
#include "core/deliver/deliver.h"
#include "core/solids/scene_model.h"

namespace zl::deliver {

/// A scene of solids as it stands in the world: NAME.scene.xml (docs/formats/scene.md) and its pictures, one
/// a lit face, named after the solid's number and the face's. Throws Refused where a solid was stretched in a
/// way that its own numbers cannot say.
std::vector<OutFile> solidSceneFiles(const Model& model, const solids::Shown& shown,
                                     const platform::Sheet& sheet, const std::string& name,
                                     const Progress& progress);

/// The scene with its solids and lights where the model has them, in metres of the world.
solids::Scene placedScene(const Model& model, const solids::Shown& shown);

} // namespace zl::deliver
