#pragma once
#include "core/steps/step.h"

#include <functional>

namespace zl::steps {

/// The model with `change` done to every clip that `of` names, all of them where it names none. Says so where
/// there is none. `change` returns null for a clip that stays as it is.
Model withClipsChanged(const Model& in, const PartNames& of, StepContext& context,
                       const std::function<std::shared_ptr<const Clip>(const Clip&)>& change);

} // namespace zl::steps
