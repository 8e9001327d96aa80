#pragma once
#include "core/model/model.h"

namespace zl {

/// Faces without a material get one called `name`, with a number behind it where another's file name would be
/// the same, so that there is something for pictures and settings to be
/// on. Whether there were any.
bool clotheBare(Model& model, const std::string& name);

} // namespace zl
