#include "app/hands/step_hands.h"

#include "app/qt_text.h"

#include "core/geometry/world.h"

namespace zl::app {

namespace {

/// On the faces of a box, or on top and side of a cylinder.
class ColliderHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        if (place.shown.colliders.empty()) return {};
        const Collider& collider = place.shown.colliders[0];
        std::vector<Handle> handles;
        const auto b = geometry::meshBounds(*collider.mesh, collider.placement);
        const glm::dvec3 c = b.centre();
        const auto add = [&](const char* id, glm::dvec3 at, glm::dvec3 axis, double value, bool quiet) {
            Handle handle;
            handle.id = id, handle.at = at, handle.axis = axis, handle.quiet = quiet;
            handle.field = id == std::string_view("top") ? "height" : id;
            handle.label = qs(place.sheet->showLength(value));
            handles.push_back(handle);
        };
        add("top", {c.x, b.max.y, c.z}, {0, 1, 0}, b.size().y, false);
        if (collider.kind == "box") {
            add("right", {b.max.x, c.y, c.z}, {1, 0, 0}, b.size().x, false);
            add("left", {b.min.x, c.y, c.z}, {-1, 0, 0}, b.size().x, true);
            add("front", {c.x, c.y, b.max.z}, {0, 0, 1}, b.size().z, true);
            add("back", {c.x, c.y, b.min.z}, {0, 0, -1}, b.size().z, true);
        } else {
            add("radius", {b.max.x, c.y, c.z}, {1, 0, 0}, b.size().x / 2, false);
        }
        return handles;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        if (start.shown.colliders.empty()) return std::nullopt;
        constexpr double least = 1e-5;
        nlohmann::json numbers = numbersOf(start.shown.colliders[0]);
        const std::string field = id == "top" ? "height" : id;
        if (!numbers.contains(field)) return std::nullopt;
        const bool negative = field == "left" || field == "back";
        numbers[field] = numbers[field].get<double>() + (negative ? -move.way : move.way);
        for (const char* size : {"height", "radius"})
            if (numbers.contains(size)) numbers[size] = std::max(least, numbers[size].get<double>());
        const auto gap = [&](const char* from, const char* to) {
            return numbers.contains(to) ? numbers[to].get<double>() - numbers[from].get<double>() : least;
        };
        if (gap("left", "right") < least || gap("back", "front") < least) return std::nullopt;
        return numbers;
    }

private:
    /// The step's parameters that say by numbers what the collider is now, however it came about.
    static nlohmann::json numbersOf(const Collider& collider) {
        const auto b = geometry::meshBounds(*collider.mesh, collider.placement);
        nlohmann::json numbers{{"around", "numbers"}, {"height", b.size().y}};
        if (collider.kind == "box")
            numbers.update({{"left", b.min.x}, {"right", b.max.x}, {"back", b.min.z}, {"front", b.max.z}});
        else
            numbers.update({{"radius", b.size().x / 2}, {"x", b.centre().x}, {"z", b.centre().z}});
        return numbers;
    }
};

} // namespace

const StepHands& colliderHands() {
    static const ColliderHands hands;
    return hands;
}

} // namespace zl::app
