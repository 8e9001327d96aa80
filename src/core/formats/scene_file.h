#pragma once
#include "core/base/units.h"
#include "core/solids/scene.h"

#include <string>
#include <string_view>

namespace zl::formats {

/// A scene of solids as it is kept in XML (docs/formats/scene.md): the scene, Y up and facing +Z here
/// whatever the file's axes, and what it is called.
struct SceneFile {
    std::string name;
    solids::Scene scene;
    bool lit = false; ///< its pictures show its light already
};

/// The text of the file, with its places and turns in the axes that are asked for.
std::string writeScene(const SceneFile& file, Up up, const std::string& front);

/// Throws Error saying what is wrong, with `where`: not XML, of another version, or what demandScene()
/// refuses.
SceneFile readScene(std::string_view bytes, const std::string& where);

} // namespace zl::formats
