#pragma once
#include "core/fields/values.h"
#include "core/model/model.h"

#include <string_view>

namespace zl::steps {

/// The first clip of this name; -1 where there is none.
int clipNamed(const Model& model, std::string_view name);
/// The same of one that must be there; throws Error naming the clips there are.
int clipMeant(const Model& model, const fields::ClipRef& ref);

} // namespace zl::steps
