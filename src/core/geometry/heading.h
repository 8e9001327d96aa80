#pragma once
#include "core/model/model.h"

namespace zl::geometry {

/// Which way a model's front seems to point, seen from above.
struct HeadingGuess {
    double angle = 0; ///< radians from +Z towards +X
    std::string reason;
};

/// Guesses from wheel-like parts (round, thin, in pairs: it drives across their axles, and the end where the
/// upper part leans to is its front), else from symmetry (mirrored left and right but not front and back: the
/// end with most detail is its face). Nothing when neither says anything clearly: a wrong guess costs more
/// than none.
std::optional<HeadingGuess> guessHeading(const Model& model);

} // namespace zl::geometry
