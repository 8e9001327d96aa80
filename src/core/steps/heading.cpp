#include "core/steps/heading.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

Model Heading::apply(const Model& in, StepContext& context) const {
    const double turn = front == Front::Angle ? angle : double(static_cast<int>(front)) * glm::radians(90.0);
    double c = std::cos(turn), s = std::sin(turn);
    if (std::abs(c) < 1e-12) c = 0, s = s > 0 ? 1 : -1;
    if (std::abs(s) < 1e-12) s = 0, c = c > 0 ? 1 : -1;
    // Turns (s, 0, c), where the front points, to +Z.
    glm::dmat4 back(1.0);
    back[0][0] = c, back[0][2] = s;
    back[2][0] = -s, back[2][2] = c;
    Model out = moved(in, back);
    out.headingKnown = true;
    const std::string_view wanted = context.sheet ? std::string_view(context.sheet->front) : "+Z";
    context.note(turn == 0 ? fmt::format("the front points to +Z and will face {}", wanted)
                           : fmt::format("turned by {}°; the front will face {}",
                                         showNumber(std::remainder(-glm::degrees(turn), 360)), wanted));
    return out;
}

} // namespace zl::steps
