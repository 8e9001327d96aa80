#pragma once
#include "core/chain/facts.h"

namespace zl::chain {

/// Puts back into `came`, a model read from a file that `original` was written to, what the file lost and the
/// original still knows: its scale and axes (`frame`: how the file was written), objects apart (when
/// triangles come back in their order), names of objects and materials, and picture links. What cannot be
/// told for sure is left as it came.
Model putBack(const Model& original, Model came, const SourceFrame& frame);

} // namespace zl::chain
