#pragma once
// What nearly every file of the window includes; see core/precompiled.h.
#include <QtWidgets>

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include <glm/glm.hpp>
#include <nlohmann/json.hpp>
