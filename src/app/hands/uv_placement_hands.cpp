#include "app/hands/step_hands.h"
#include "app/qt_text.h"

#include "core/base/error.h"
#include "core/geometry/world.h"
#include "core/uv/on_surface.h"

namespace zl::app {

namespace {

constexpr std::size_t mostTriangles = 300000; ///< of a model whose surface is asked at every move of the hand

/// The chosen surface as the step finds it; nothing where its selection cannot be made out here.
std::optional<uv::MarkedSurface> surfaceOf(const HandsPlace& place) {
    if (triangleCount(place.before) > mostTriangles) return std::nullopt;
    try {
        const auto wanted = selection::fromJson(place.params.value("faces", nlohmann::json::array()));
        uv::MarkedSurface surface(
            place.before,
            selection::chosen(place.before, wanted.empty() ? selection::everything() : wanted).faces);
        if (surface.empty()) return std::nullopt;
        return surface;
    } catch (const Error&) {
        return std::nullopt; // the step's card says why
    }
}

double twoDigits(double value) {
    return std::round(value * 10000) / 10000 + 0.0;
}

/// On the chosen surface: one mark that carries the picture along, one that turns it about the middle, one
/// that sizes it.
class UvPlacementHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const auto surface = surfaceOf(place);
        const glm::dmat4 shown = toShown(place.before, place.shown);
        const auto middle = surface ? markOn(*surface, place, shown) : std::nullopt;
        if (!middle) return {};
        const auto inView = [&](const glm::dvec3& p) { return glm::dvec3(shown * glm::dvec4(p, 1)); };
        const double reach = reachOf(place);
        const glm::dvec3 right = glm::normalize(middle->right),
                         up = glm::normalize(glm::cross(middle->normal, right));
        Handle carry;
        carry.id = "carry", carry.field = "across";
        carry.at = inView(middle->place);
        carry.way = Handle::Way::Surface;
        const double across = place.params.value("across", 0.0), down = place.params.value("down", 0.0);
        carry.label =
            across == 0 && down == 0
                ? QObject::tr("drag the picture")
                : QObject::tr("%1 right, %2 down").arg(qs(showNumber(across, 2)), qs(showNumber(down, 2)));
        Handle turn;
        turn.id = "turn", turn.field = "turn";
        turn.way = Handle::Way::Around;
        turn.centre = carry.at;
        turn.axis = glm::normalize(glm::dmat3(shown) * middle->normal);
        turn.at = inView(middle->place + right * reach);
        turn.label = QString("%1°").arg(qs(showNumber(place.params.value("turn", 0.0), 1)));
        Handle size;
        size.id = "size", size.field = "wider";
        size.at = inView(middle->place + up * reach);
        size.axis = glm::normalize(size.at - carry.at);
        size.label = QObject::tr("%1 %").arg(qs(showNumber(100 * place.params.value("taller", 1.0), 0)));
        return {carry, turn, size};
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        if (id == "turn")
            return nlohmann::json{
                {"turn",
                 twoDigits(std::remainder(start.params.value("turn", 0.0) + glm::degrees(move.way), 360.0))}};
        if (id == "size") {
            const double factor = std::clamp(1 + move.way / reachOf(start), 0.02, 50.0);
            const auto sized = [&](const char* name) {
                return twoDigits(std::clamp(start.params.value(name, 1.0) * factor, 0.001, 1000.0));
            };
            return nlohmann::json{{"wider", sized("wider")}, {"taller", sized("taller")}};
        }
        const auto surface = surfaceOf(start);
        const glm::dmat4 shown = toShown(start.before, start.shown), back = glm::inverse(shown);
        const auto from = surface ? markOn(*surface, start, shown) : std::nullopt;
        if (!from) return std::nullopt;
        const auto to = surface->at(glm::dvec3(back * glm::dvec4(move.onto, 1)));
        // What lay under the mark is to lie under the hand.
        const glm::dvec2 by = to->uv - from->uv;
        return nlohmann::json{{"across", twoDigits(start.params.value("across", 0.0) + by.x)},
                              {"down", twoDigits(start.params.value("down", 0.0) + by.y)}};
    }

private:
    /// Where the picture's middle lies on the side that is looked at.
    static std::optional<uv::OnSurface> markOn(const uv::MarkedSurface& surface, const HandsPlace& place,
                                               const glm::dmat4& shown) {
        return surface.at(surface.middle(), glm::inverse(glm::dmat3(shown)) * place.towards);
    }
    /// How far from the middle the marks stand: within the model, whatever is chosen of it.
    static double reachOf(const HandsPlace& place) {
        return std::max(0.16 * glm::length(geometry::worldBounds(place.before).size()), 1e-6);
    }
};

} // namespace

const StepHands& uvPlacementHands() {
    static const UvPlacementHands hands;
    return hands;
}

} // namespace zl::app
