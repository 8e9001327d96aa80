#pragma once
#include "app/view/model_view.h"

namespace zl::app {

/// Handles on the faces of a box, or on top and side of a cylinder, labelled in the sheet's unit.
std::vector<Handle> handlesOf(const Collider& collider, const platform::Sheet& sheet);

/// The collider step's parameters that say by numbers what the collider is now, however it came about.
nlohmann::json numbersOf(const Collider& collider);

/// `start` (from numbersOf) with the handle `id` moved outward by `delta` metres; nothing when the collider
/// would turn inside out.
std::optional<nlohmann::json> withHandleMoved(const nlohmann::json& start, const std::string& id,
                                              double delta);

} // namespace zl::app
