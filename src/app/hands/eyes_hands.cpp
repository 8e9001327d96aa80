#include "app/hands/step_hands.h"

#include "app/qt_text.h"

#include "core/avatar/keys.h"
#include "core/model/avatar.h"

namespace zl::app {

namespace {

/// The place from which an avatar looks, put onto its face.
class EyesHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const auto from = eyes(place.after);
        if (!from) return {};
        Handle handle;
        handle.id = "eyes";
        handle.field = "place";
        handle.at = glm::dvec3(toShown(place.after, place.shown) * glm::dvec4(*from, 1));
        handle.way = Handle::Way::Onto;
        handle.label = QObject::tr("looks from here");
        return {handle};
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string&,
                                          const HandleMove& move) const override {
        const int head = avatar::boneOf(start.after, "head");
        const glm::dmat4 shown = toShown(start.after, start.shown);
        if (head < 0 || !(std::abs(glm::determinant(shown)) > 1e-30)) return std::nullopt;
        const glm::dvec3 p = glm::dvec3(glm::inverse(shown) * glm::dvec4(move.onto, 1)) -
                             glm::dvec3(worldMatrices(start.after)[std::size_t(head)][3]);
        return nlohmann::json{{"eyes", "place"}, {"place", {p.x, p.y, p.z}}};
    }

private:
    static std::optional<glm::dvec3> eyes(const Model& model) {
        const int head = avatar::boneOf(model, "head");
        if (head < 0 || !model.avatar->lookAt) return std::nullopt;
        return glm::dvec3(worldMatrices(model)[std::size_t(head)] *
                          glm::dvec4(model.avatar->lookAt->eyes, 1));
    }
};

} // namespace

const StepHands& eyesHands() {
    static const EyesHands hands;
    return hands;
}

} // namespace zl::app
