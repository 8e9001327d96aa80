#include "standins/world/arena.h"

#include <algorithm>

namespace zl::standins::world {

int Arena::addItem(Item item) {
    const glm::vec3 low = item.shape.low(), high = item.shape.high();
    physics_.addShape(item.shape, {(low.x + high.x) / 2, low.y + (high.y - low.y) / 3, (low.z + high.z) / 2});
    items_.push_back(std::move(item));
    return static_cast<int>(items_.size()) - 1;
}

namespace {

struct Nearest {
    int item = -1;
    float distance = 1e30f;
};

Nearest nearest(const Arena& arena, const glm::vec3& from, const glm::vec3& direction,
                const std::function<bool(int)>& counts) {
    Nearest out;
    for (const Drawn& one : arena.drawn()) {
        if (counts && !counts(one.item)) continue;
        const glm::mat4 back = glm::inverse(one.pose);
        const glm::vec3 start(back * glm::vec4(from, 1)), way(back * glm::vec4(direction, 0));
        const Shape& shape = arena.items()[std::size_t(one.item)].shape;
        if (const auto met = firstMet(shape, start, way); met && met->distance < out.distance)
            out = {one.item, met->distance};
    }
    return out;
}

} // namespace

int Arena::itemAt(const glm::vec3& from, const glm::vec3& direction) const {
    return nearest(*this, from, direction, {}).item;
}

std::optional<float> Arena::wayTo(const glm::vec3& from, const glm::vec3& direction, float most,
                                  const std::function<bool(int)>& counts) const {
    const Nearest met = nearest(*this, from, direction, counts);
    return met.item >= 0 && met.distance <= most ? std::optional(met.distance) : std::nullopt;
}

std::vector<Drawn> Arena::drawn() const {
    std::vector<Drawn> out;
    for (std::size_t i = 0; i < physics_.count(); ++i)
        out.push_back({physics_.shapeOf(int(i)), physics_.pose(int(i)).matrix});
    return out;
}

bool Arena::advance(double seconds) {
    physics_.advance(seconds);
    return false;
}

std::pair<glm::vec3, glm::vec3> Arena::frame() const {
    glm::vec3 low(1e30f), high(-1e30f);
    for (const Drawn& one : expected()) {
        const Shape& shape = items_[one.item].shape;
        for (int i = 0; i < 8; ++i) {
            const glm::vec3 a = shape.low(), b = shape.high();
            const glm::vec3 p(one.pose *
                              glm::vec4(i & 1 ? b.x : a.x, i & 2 ? b.y : a.y, i & 4 ? b.z : a.z, 1));
            low = glm::min(low, p), high = glm::max(high, p);
        }
    }
    const auto figure = static_cast<float>(figureHeight_);
    if (low.x > high.x) low = glm::vec3(-figure), high = glm::vec3(figure);
    const glm::vec3 foot = figureFoot();
    low = glm::min(low, foot - glm::vec3(0.3f * figure, 0, 0));
    high = glm::max(high, foot + glm::vec3(0.3f * figure, figure * 1.05f, 0));
    low.y = std::min(low.y, 0.0f);
    return {low, high};
}

glm::vec3 Arena::figureFoot() const {
    float right = 0, half = 0;
    for (const Drawn& one : expected()) {
        const Shape& shape = items_[one.item].shape;
        right = std::max(right, one.pose[3].x + shape.high().x);
        half = std::max(half, shape.size().x);
    }
    return {right + 0.45f * static_cast<float>(figureHeight_), 0, 0};
}

} // namespace zl::standins::world
