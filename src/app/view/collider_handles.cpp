#include "app/view/collider_handles.h"

#include "app/qt_text.h"

namespace zl::app {

std::vector<Handle> handlesOf(const Collider& collider, const platform::Sheet& sheet) {
    std::vector<Handle> handles;
    const auto b = geometry::meshBounds(*collider.mesh, collider.placement);
    const glm::dvec3 c = b.centre();
    const auto add = [&](const char* id, glm::dvec3 at, glm::dvec3 axis, double value) {
        handles.push_back({id, at, axis, qs(sheet.showLength(value))});
    };
    add("top", {c.x, b.max.y, c.z}, {0, 1, 0}, b.size().y);
    if (collider.kind == "box") {
        add("right", {b.max.x, c.y, c.z}, {1, 0, 0}, b.size().x);
        add("left", {b.min.x, c.y, c.z}, {-1, 0, 0}, b.size().x);
        add("front", {c.x, c.y, b.max.z}, {0, 0, 1}, b.size().z);
        add("back", {c.x, c.y, b.min.z}, {0, 0, -1}, b.size().z);
    } else {
        add("radius", {b.max.x, c.y, c.z}, {1, 0, 0}, b.size().x / 2);
    }
    return handles;
}

nlohmann::json numbersOf(const Collider& collider) {
    const auto b = geometry::meshBounds(*collider.mesh, collider.placement);
    nlohmann::json numbers{{"around", "numbers"}, {"height", b.size().y}};
    if (collider.kind == "box")
        numbers.update({{"left", b.min.x}, {"right", b.max.x}, {"back", b.min.z}, {"front", b.max.z}});
    else
        numbers.update({{"radius", b.size().x / 2}, {"x", b.centre().x}, {"z", b.centre().z}});
    return numbers;
}

std::optional<nlohmann::json> withHandleMoved(const nlohmann::json& start, const std::string& id,
                                              double delta) {
    constexpr double least = 1e-5;
    nlohmann::json numbers = start;
    const std::string field = id == "top" ? "height" : id;
    const bool negative = field == "left" || field == "back";
    numbers[field] = numbers[field].get<double>() + (negative ? -delta : delta);
    for (const char* size : {"height", "radius"})
        if (numbers.contains(size)) numbers[size] = std::max(least, numbers[size].get<double>());
    const auto gap = [&](const char* from, const char* to) {
        return numbers.contains(to) ? numbers[to].get<double>() - numbers[from].get<double>() : least;
    };
    if (gap("left", "right") < least || gap("back", "front") < least) return std::nullopt;
    return numbers;
}

} // namespace zl::app
