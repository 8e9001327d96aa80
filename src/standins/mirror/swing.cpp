// Bones that swing, by VRMC_springBone 1.0's own algorithm.
#include "standins/mirror/figure.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>

namespace zl::standins::mirror {

namespace {

glm::vec3 point(const glm::mat4& m, const glm::vec3& p) {
    return glm::vec3(m * glm::vec4(p, 1));
}

/// The nearest point to `p` between two.
glm::vec3 nearest(const glm::vec3& a, const glm::vec3& b, const glm::vec3& p) {
    const glm::vec3 way = b - a;
    const float length = glm::dot(way, way);
    return length > 0 ? a + way * std::clamp(glm::dot(p - a, way) / length, 0.0f, 1.0f) : a;
}

/// The turn that takes one direction to another, the short way.
glm::quat turnBetween(const glm::vec3& from, const glm::vec3& to) {
    const float cosine = glm::dot(from, to);
    if (cosine < -0.9999f) {
        const glm::vec3 aside = std::abs(from.x) < 0.9f ? glm::vec3(1, 0, 0) : glm::vec3(0, 1, 0);
        return glm::angleAxis(3.14159265f, glm::normalize(glm::cross(from, aside)));
    }
    return glm::normalize(glm::quat(1 + cosine, glm::cross(from, to)));
}

glm::quat turnOf(const glm::mat4& m) {
    glm::mat3 turn(m);
    for (int k = 0; k < 3; ++k)
        if (const float length = glm::length(turn[k]); length > 1e-12f) turn[k] /= length;
    return glm::normalize(glm::quat_cast(turn));
}

} // namespace

Swing::Swing(const Figure& figure) {
    const auto world = standing(figure, {});
    for (const Swinging& own : figure.swinging) {
        State state;
        const glm::vec3 tail =
            point(glm::inverse(world[std::size_t(own.node)]), glm::vec3(world[std::size_t(own.next)][3]));
        state.length = glm::length(tail);
        if (state.length > 0) state.axis = tail / state.length;
        state.now = state.before = point(world[std::size_t(own.node)], tail);
        bones_.push_back(state);
    }
}

void Swing::step(const Figure& figure, Doing& doing, float seconds) {
    const auto world = standing(figure, doing);
    // Bones of a chain follow one another, so what is above has its new place already.
    std::map<int, glm::mat4> moved;
    const auto at = [&](int node) {
        // From the nearest one above that has moved.
        std::vector<int> chain;
        int up = node;
        for (; up >= 0 && !moved.contains(up); up = figure.nodes[std::size_t(up)].above) chain.push_back(up);
        if (up < 0) return world[std::size_t(node)];
        glm::mat4 matrix = moved.at(up);
        for (auto one = chain.rbegin(); one != chain.rend(); ++one)
            matrix = matrix * glm::inverse(world[std::size_t(figure.nodes[std::size_t(*one)].above)]) *
                     world[std::size_t(*one)];
        return matrix;
    };
    for (std::size_t k = 0; k < bones_.size(); ++k) {
        const Swinging& own = figure.swinging[k];
        State& state = bones_[k];
        if (!(state.length > 0)) continue;
        const Node& node = figure.nodes[std::size_t(own.node)];
        const glm::mat4 above = node.above < 0 ? glm::mat4(1) : at(node.above);
        const glm::mat4 rest =
            above *
            glm::scale(glm::translate(glm::mat4(1), node.place) * glm::mat4_cast(node.turn), node.scale);
        const glm::vec3 head(rest[3]), restTail = point(rest, state.axis * state.length);
        const float length = glm::length(restTail - head);
        if (!(length > 0)) continue;
        const glm::vec3 inertia = (state.now - state.before) * (1 - own.drag),
                        stiff = (restTail - head) / length * (own.stiffness * seconds),
                        fall = own.gravityTo * (own.gravity * seconds);
        glm::vec3 next = state.now + inertia + stiff + fall;
        const auto held = [&] {
            const glm::vec3 way = next - head;
            next = head + (glm::length(way) > 1e-9f ? glm::normalize(way) : glm::vec3(0, -1, 0)) * length;
        };
        held();
        for (const int b : own.balls) {
            const Ball& ball = figure.balls[std::size_t(b)];
            const glm::mat4 place = at(ball.node);
            const glm::vec3 middle = nearest(point(place, ball.from), point(place, ball.to), next);
            const float room = ball.radius + own.radius, far = glm::length(next - middle);
            if (far >= room || far < 1e-9f) continue;
            next = middle + (next - middle) / far * room;
            held();
        }
        state.before = state.now, state.now = next;
        const glm::vec3 from = glm::normalize(restTail - head), to = glm::normalize(next - head);
        const glm::quat turn =
            glm::normalize(glm::inverse(turnOf(above)) * turnBetween(from, to) * turnOf(above) * node.turn);
        doing.turns[own.node] = turn;
        moved[own.node] =
            above * glm::scale(glm::translate(glm::mat4(1), node.place) * glm::mat4_cast(turn), node.scale);
    }
}

} // namespace zl::standins::mirror
