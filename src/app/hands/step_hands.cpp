#include "app/hands/step_hands.h"
#include "app/qt_text.h"

#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

#include <map>

namespace zl::app {

const StepHands* handsOf(std::string_view step) {
    static const std::map<std::string_view, const StepHands*> all{
        {"turn", &turnHands()},
        {"size", &sizeHands()},
        {"heading", &headingHands()},
        {"origin", &originHands()},
        {"collider-box", &colliderHands()},
        {"collider-cylinder", &colliderHands()},
        {"pose", &poseHands()},
        {"wear", &wearHands()},
        {"set-beside", &besideHands()},
        {"reshape", &reshapeHands()},
        {"take-parts", &takePartsHands()},
        {"uv-placement", &uvPlacementHands()},
        {"avatar-setup", &eyesHands()},
    };
    const auto found = all.find(step);
    return found == all.end() ? nullptr : found->second;
}

QString shownLength(const HandsPlace& place, double metres) {
    return place.sheet ? qs(place.sheet->showLength(metres)) : qs(showMeasure(metres) + " m");
}

glm::dmat4 toShown(const Model& before, const Model& shown) {
    // Where a mesh is still the same, its node tells. Baking and reducing make others; their bounds tell the
    // way at least.
    const auto was = worldMatrices(before), is = worldMatrices(shown);
    for (std::size_t n = 0; n < std::min(was.size(), is.size()); ++n) {
        const int a = before.nodes[n].mesh, b = shown.nodes[n].mesh;
        if (a >= 0 && b >= 0 && before.meshes[std::size_t(a)] == shown.meshes[std::size_t(b)] &&
            std::abs(glm::determinant(was[n])) > 1e-30)
            return is[n] * glm::inverse(was[n]);
    }
    return glm::translate(glm::dmat4(1.0),
                          geometry::worldBounds(shown).centre() - geometry::worldBounds(before).centre());
}

} // namespace zl::app
