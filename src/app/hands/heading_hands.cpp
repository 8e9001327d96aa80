#include "app/hands/step_hands.h"

#include "app/view/front_arrow.h"

#include "core/geometry/world.h"

#include <glm/gtc/constants.hpp>

namespace zl::app {

namespace {

/// The arrow on the floor, turned by its tip. The model turns when it is let go.
class HeadingHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const auto bounds = geometry::worldBounds(place.shown);
        if (bounds.empty()) return {};
        return {FrontArrow(bounds, 0).handle(bounds)};
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string&,
                                          const HandleMove& move) const override {
        static constexpr const char* quarters[] = {"+z", "+x", "-z", "-x"};
        const std::string front = start.params.value("front", "+z");
        double degrees = start.params.value("angle", 0.0);
        for (int q = 0; q < 4; ++q)
            if (front == quarters[q]) degrees = 90.0 * q;
        degrees = std::remainder(degrees + glm::degrees(move.way), 360.0);
        return angleParams(degrees);
    }

private:
    static nlohmann::json angleParams(double degrees) {
        static constexpr const char* quarters[] = {"-z", "-x", "+z", "+x", "-z"};
        const double quarter = std::round(degrees / 90);
        if (std::abs(degrees - 90 * quarter) < 3) return {{"front", quarters[int(quarter) + 2]}};
        return {{"front", "angle"}, {"angle", std::round(degrees * 10) / 10}};
    }
};

} // namespace

const StepHands& headingHands() {
    static const HeadingHands hands;
    return hands;
}

} // namespace zl::app
