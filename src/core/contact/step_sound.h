#pragma once
#include <string_view>
#include <vector>

namespace zl::contact {

inline constexpr int soundRate = 22050; ///< samples a second

/// What a step on a surface sounds like, made from the word for it: one of `soundWords()`, the last of the
/// words, with what changes it before it ("hard clack", "soft hiss"). A struck body is a few ringing modes
/// (van den Doel and Pai, The Sounds of Physical Shapes, 1998); what gives way is many small grains of noise
/// (Cook, Modeling Bill's Gait, 2002). Samples from -1 to 1, at most a second; the same for the same
/// arguments. `step` varies it a little, as no two steps are alike. Empty for a word that is not known.
std::vector<float> stepSound(std::string_view words, unsigned step = 0);

const std::vector<std::string_view>& soundWords();
const std::vector<std::string_view>& soundChanges();

} // namespace zl::contact
