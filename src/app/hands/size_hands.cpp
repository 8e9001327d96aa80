#include "app/hands/step_hands.h"

#include "app/qt_text.h"

#include "core/geometry/world.h"

namespace zl::app {

namespace {

/// One handle on the measure that the step goes by: the top for a height.
class SizeHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const auto bounds = geometry::worldBounds(place.shown);
        const int axis = axisOf(place.params);
        if (bounds.empty() || !(bounds.size()[axis] > 0)) return {};
        Handle handle;
        handle.id = "measure";
        handle.field = place.params.value("by", "") == "factor" ? "factor" : "measure";
        handle.at = bounds.centre();
        handle.at[axis] = bounds.max[axis];
        handle.axis = glm::dvec3(axis == 0, axis == 1, axis == 2);
        handle.label = qs(place.sheet->showBoth(bounds.size()[axis]));
        return {handle};
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string&,
                                          const HandleMove& move) const override {
        const double was = geometry::worldBounds(start.shown).size()[axisOf(start.params)];
        if (!(was > 0)) return std::nullopt;
        const double times = std::max(1e-3, (was + move.way) / was);
        const char* field = start.params.value("by", "") == "factor" ? "factor" : "measure";
        return nlohmann::json{{field, std::clamp(start.params.value(field, 1.0) * times, 1e-6, 1e6)}};
    }

private:
    static int axisOf(const nlohmann::json& params) {
        const std::string by = params.value("by", "");
        return by == "width" ? 0 : by == "length" ? 2 : 1;
    }
};

} // namespace

const StepHands& sizeHands() {
    static const SizeHands hands;
    return hands;
}

} // namespace zl::app
