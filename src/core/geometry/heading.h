#pragma once
#include "core/model/model.h"

namespace zl::geometry {

/// Which way a model's front seems to point, seen from above.
struct HeadingGuess {
    double angle = 0; ///< radians from +Z towards +X
    std::string reason;
};

/// Guesses from wheel-like parts (round, thin, at least two: it drives across their axles, whichever way
/// these point, and its front is the end with the smaller wheels, or where the upper part leans to; nothing
/// when these two disagree), else from symmetry (mirrored left and right but not front and back: the end with
/// most detail is its face). Nothing when neither says anything clearly: a wrong guess costs more than none.
std::optional<HeadingGuess> guessHeading(const Model& model);

} // namespace zl::geometry
