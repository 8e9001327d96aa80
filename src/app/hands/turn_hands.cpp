#include "app/hands/step_hands.h"

#include "app/qt_text.h"

#include "core/geometry/world.h"
#include "core/motion/bone_turns.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::app {

namespace {

glm::dmat4 about(int axis, double angle) {
    glm::dvec3 unit(0);
    unit[axis] = 1;
    return glm::rotate(glm::dmat4(1.0), angle, unit);
}

/// Rings about the three axes.
class TurnHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const auto bounds = geometry::worldBounds(place.shown);
        if (bounds.empty()) return {};
        const glm::dvec3 centre = bounds.centre();
        const double radius = 0.55 * glm::length(bounds.size());
        std::vector<Handle> handles;
        for (int k = 0; k < 3; ++k) {
            Handle handle;
            handle.id = handle.field = QString("xyz").mid(k, 1);
            handle.way = Handle::Way::Around;
            handle.axis = glm::dvec3(k == 0, k == 1, k == 2);
            handle.centre = centre;
            // Each mark lies on its own ring only.
            handle.at = centre + radius * glm::normalize(glm::dvec3(k == 1, k == 2, k == 0) +
                                                         glm::dvec3(k == 2, k == 0, k == 1));
            handle.label = QString("%1 %2°").arg(
                handle.id.toUpper(), qs(showNumber(place.params.value(handle.id.toStdString(), 0.0))));
            handle.quiet = place.params.value(handle.id.toStdString(), 0.0) == 0;
            handles.push_back(handle);
        }
        return handles;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        const auto angle = [&](const char* name) { return glm::radians(start.params.value(name, 0.0)); };
        const glm::dmat4 now = about(2, angle("z")) * about(1, angle("y")) * about(0, angle("x"));
        // The axis is the world's behind all steps; those behind this one may have turned it.
        glm::dmat3 rest(toShown(start.after, start.shown));
        const double scale = std::cbrt(std::abs(glm::determinant(rest)));
        rest = scale > 0 ? rest / scale : glm::dmat3(1.0);
        const glm::dmat3 turned = glm::transpose(rest) *
                                  glm::dmat3(about(id == "x"   ? 0
                                                   : id == "y" ? 1
                                                               : 2,
                                                   move.way)) *
                                  rest * glm::dmat3(now);
        const auto degrees = [](double a) { return std::round(glm::degrees(a) * 100) / 100 + 0.0; };
        const glm::dvec3 angles = motion::anglesOf(glm::quat_cast(turned));
        return nlohmann::json{{"x", degrees(angles.x)}, {"y", degrees(angles.y)}, {"z", degrees(angles.z)}};
    }
};

} // namespace

const StepHands& turnHands() {
    static const TurnHands hands;
    return hands;
}

} // namespace zl::app
