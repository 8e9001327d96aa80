#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Notes how far a collider may lean before it falls, in whole degrees.
void noteLean(const Collider& collider, StepContext& context);

} // namespace zl::steps
