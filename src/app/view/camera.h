#pragma once
#include <glm/glm.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::app {

/// An orbiting camera. Distances in the scene's unit (metres, or table units), angles in radians.
struct Camera {
    glm::dvec3 target{0.0};
    double distance = 3;
    double yaw = 0.55;
    double pitch = 0.24;
    double aspect = 1.4;
    static constexpr double fieldOfView = 0.55;

    glm::dvec3 back() const {
        return {std::sin(yaw) * std::cos(pitch), std::sin(pitch), std::cos(yaw) * std::cos(pitch)};
    }
    glm::dvec3 eye() const { return target + back() * distance; }
    glm::dvec3 right() const { return {std::cos(yaw), 0, -std::sin(yaw)}; }
    glm::dvec3 up() const { return glm::cross(back(), right()); }
    glm::dmat4 view() const { return glm::lookAt(eye(), target, glm::dvec3(0, 1, 0)); }
    glm::dmat4 projection() const {
        return glm::perspective(fieldOfView, aspect, distance * 0.02, distance * 60);
    }

    void turn(double dx, double dy) {
        yaw -= dx * 0.008;
        pitch = glm::clamp(pitch + dy * 0.008, -1.45, 1.5);
    }
    /// Turns level to `toYaw`, or with `down` to look from above; where it looks so already, from the other
    /// side.
    void lookFrom(double toYaw, bool down) {
        constexpr double half = 3.14159265358979323846, above = 1.5, below = -1.45;
        const auto at = [](double a, double b) { return std::abs(std::remainder(a - b, 2 * half)) < 1e-6; };
        const double toPitch = down ? above : 0;
        const bool there = at(yaw, toYaw) && at(pitch, toPitch);
        yaw = there && !down ? toYaw + half : toYaw;
        pitch = there && down ? below : toPitch;
    }
    /// Stands at `eye` and looks to `to`.
    void lookAlong(const glm::dvec3& eye, const glm::dvec3& to) {
        const glm::dvec3 way = eye - to;
        target = to, distance = std::max(1e-6, glm::length(way));
        yaw = std::atan2(way.x, way.z), pitch = std::asin(std::clamp(way.y / distance, -1.0, 1.0));
    }
    /// Moves the target with the pointer; `height` is the view's height in pixels.
    void move(double dx, double dy, double height) {
        const double scale = 2 * distance * std::tan(fieldOfView / 2) / height;
        target += right() * (-dx * scale) + up() * (dy * scale);
    }
    /// Nearer (below 1) or farther, keeping the point under the pointer where it is; x, y from -1 to 1.
    void zoom(double factor, double x, double y) {
        const double half = distance * std::tan(fieldOfView / 2);
        target += (right() * (x * half * aspect) + up() * (y * half)) * (1 - factor);
        distance *= factor;
    }
    void frame(const glm::dvec3& low, const glm::dvec3& high) {
        target = (low + high) * 0.5;
        const double half = std::tan(fieldOfView / 2);
        distance = 1e-6;
        for (int i = 0; i < 8; ++i) {
            const glm::dvec3 corner =
                glm::dvec3(i & 1 ? high.x : low.x, i & 2 ? high.y : low.y, i & 4 ? high.z : low.z) - target;
            const double depth = glm::dot(corner, back());
            distance =
                std::max({distance, std::abs(glm::dot(corner, right())) / (half * aspect * 0.8) + depth,
                          std::abs(glm::dot(corner, up())) / (half * 0.74) + depth});
        }
    }
    /// Pixel position of a point in a view of this size; z is the depth, below 0 in front of the eye.
    glm::dvec3 project(const glm::dvec3& p, double width, double height) const {
        const glm::dvec4 clip = projection() * view() * glm::dvec4(p, 1);
        if (clip.w <= 0) return {-1e6, -1e6, 1};
        return {(clip.x / clip.w * 0.5 + 0.5) * width, (0.5 - clip.y / clip.w * 0.5) * height,
                clip.z / clip.w};
    }
    /// Direction from the eye through a pixel.
    glm::dvec3 ray(double px, double py, double width, double height) const {
        const double half = std::tan(fieldOfView / 2), x = px / width * 2 - 1, y = 1 - py / height * 2;
        return glm::normalize(right() * (x * half * aspect) + up() * (y * half) - back());
    }
};

} // namespace zl::app
