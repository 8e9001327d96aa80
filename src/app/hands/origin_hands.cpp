#include "app/hands/step_hands.h"

#include "app/qt_text.h"

namespace zl::app {

namespace {

/// A mark at the origin, put onto a corner or a face of the model.
class OriginHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace&) const override {
        Handle handle;
        handle.id = "origin";
        handle.field = "point";
        handle.at = glm::dvec3(0);
        handle.way = Handle::Way::Onto;
        handle.atEnd = true;
        handle.label = QObject::tr("origin");
        return {handle};
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string&,
                                          const HandleMove& move) const override {
        const glm::dmat4 shown = toShown(start.before, start.shown);
        if (!(std::abs(glm::determinant(shown)) > 1e-30)) return std::nullopt;
        const glm::dvec3 p(glm::inverse(shown) * glm::dvec4(move.onto, 1));
        return nlohmann::json{{"at", "point"}, {"point", {p.x, p.y, p.z}}};
    }
};

} // namespace

const StepHands& originHands() {
    static const OriginHands hands;
    return hands;
}

} // namespace zl::app
