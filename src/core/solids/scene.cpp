#include "core/solids/scene.h"

#include "core/base/error.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::solids {

namespace {

bool isPlace(const glm::dvec3& at) {
    for (int k = 0; k < 3; ++k)
        if (!(std::abs(at[k]) <= furthest)) return false;
    return true;
}

bool isShare(const glm::vec3& colour) {
    for (int k = 0; k < 3; ++k)
        if (!(colour[k] >= 0 && colour[k] <= 1)) return false;
    return true;
}

void demandLook(const Look& look) {
    if (!isShare(look.colour)) throw Error("a colour's parts are not from 0 to 1");
    if (!(look.glow >= 0 && look.glow <= 1)) throw Error("a glow is not from 0 to 1");
    constexpr float most = 1e4f;
    const UvPlacement& p = look.placement;
    for (const float number : {p.offset.x, p.offset.y, p.scale.x, p.scale.y, p.turn})
        if (!(std::abs(number) <= most)) throw Error("a picture lies nowhere on its face");
}

void demandTurn(const glm::dvec3& turn) {
    constexpr double most = 36000;
    for (int k = 0; k < 3; ++k)
        if (!(std::abs(turn[k]) <= most)) throw Error("it is turned by no angle");
}

void demandWithin(double value, const Range& range, const char* what) {
    if (!(value >= range.least && value <= range.most))
        throw Error(fmt::format("its {} is {}, and {} to {} can be", what, value, range.least, range.most));
}

template <class T>
std::string saidOf(const char* what, Number number, const T& one) {
    return one.name.empty() ? fmt::format("{} {}", what, number)
                            : fmt::format("{} {} \"{}\"", what, number, one.name);
}

/// The errors of `demand` say which part they are about.
template <class T, class F>
void each(const char* what, const std::map<Number, T>& parts, F demand) {
    for (const auto& [number, part] : parts) {
        try {
            if (number <= 0) throw Error("has a number below 1");
            demand(part);
        } catch (const Error& error) {
            throw Error(error.what(), saidOf(what, number, part), error.mend());
        }
    }
}

} // namespace

void demandSolid(const Solid& solid) {
    demandShape(solid.shape);
    if (!isPlace(solid.at)) throw Error("it stands too far away to be worked with");
    demandTurn(solid.turn);
    demandLook(solid.look);
    for (const auto& [face, look] : solid.faces) {
        if (face < 0 || face >= faceCount) throw Error(fmt::format("there is no face {}", face));
        demandLook(look);
    }
}

void demandLight(const Light& light) {
    if (!isPlace(light.at)) throw Error("it stands too far away to be worked with");
    demandTurn(light.turn);
    if (!isShare(light.colour)) throw Error("its colour's parts are not from 0 to 1");
    demandWithin(light.strength, strengths, "strength");
    demandWithin(light.size.x, lightSizes, "size");
    demandWithin(light.size.y, lightSizes, "size");
}

void demandScene(const Scene& scene) {
    if (scene.solids.size() > mostSolids)
        throw Error(
            fmt::format("that is {} solids, and {} can be worked with", scene.solids.size(), mostSolids));
    demandWithin(scene.sides, sidesAround, "edges around");
    each("solid", scene.solids, [&](const Solid& solid) {
        demandSolid(solid);
        if (solid.group != 0 && !scene.groups.contains(solid.group))
            throw Error(fmt::format("it is in group {}, which there is not", solid.group));
    });
    each("light", scene.lights, demandLight);
    each("group", scene.groups, [&](const Group& group) {
        if (group.within != 0 && !scene.groups.contains(group.within))
            throw Error(fmt::format("it is in group {}, which there is not", group.within));
        if (group.lead != 0 && !scene.solids.contains(group.lead))
            throw Error(fmt::format("it goes by solid {}, which there is not", group.lead));
    });
    // A walk up that is longer than there are groups goes in circles; each group is walked through once.
    std::map<Number, bool> ends;
    for (const auto& [number, group] : scene.groups) {
        std::vector<Number> way;
        Number at = number;
        while (at != 0 && !ends.contains(at)) {
            if (way.size() > scene.groups.size())
                throw Error("it is within itself", saidOf("group", number, group),
                            "Take it out of the group.");
            way.push_back(at);
            at = scene.groups.at(at).within;
        }
        for (const Number one : way) ends[one] = true;
    }
}

Number Scene::fresh() const {
    Number last = 0;
    if (!solids.empty()) last = std::max(last, solids.rbegin()->first);
    if (!groups.empty()) last = std::max(last, groups.rbegin()->first);
    if (!lights.empty()) last = std::max(last, lights.rbegin()->first);
    return last + 1;
}

std::map<Number, std::vector<Number>> Scene::groupsWithin() const {
    std::map<Number, std::vector<Number>> out;
    for (const auto& [number, group] : groups) out[group.within].push_back(number);
    return out;
}

std::map<Number, std::vector<Number>> Scene::solidsIn() const {
    std::map<Number, std::vector<Number>> out;
    for (const auto& [number, solid] : solids) out[solid.group].push_back(number);
    return out;
}

Number Scene::leadOf(Number group) const {
    const auto within = groupsWithin();
    const auto in = solidsIn();
    std::vector<Number> open{group};
    if (const auto found = groups.find(group); found != groups.end() && found->second.lead != 0)
        return found->second.lead;
    while (!open.empty()) {
        const Number at = open.back();
        open.pop_back();
        if (const auto own = in.find(at); own != in.end()) return own->second.front();
        if (const auto inner = within.find(at); inner != within.end())
            open.insert(open.end(), inner->second.rbegin(), inner->second.rend());
    }
    return 0;
}

glm::dquat turned(const glm::dvec3& degrees) {
    const glm::dvec3 angle = glm::radians(degrees);
    return glm::angleAxis(angle.z, glm::dvec3(0, 0, 1)) * glm::angleAxis(angle.y, glm::dvec3(0, 1, 0)) *
           glm::angleAxis(angle.x, glm::dvec3(1, 0, 0));
}

glm::dvec3 degreesOf(const glm::dquat& turn) {
    const glm::dmat3 m = glm::mat3_cast(glm::normalize(turn));
    const double sine = std::clamp(-m[0][2], -1.0, 1.0);
    constexpr double upright = 1 - 1e-12; // X and Z turn about the same line there
    const glm::dvec3 out =
        std::abs(sine) < upright
            ? glm::dvec3(std::atan2(m[1][2], m[2][2]), std::asin(sine), std::atan2(m[0][1], m[0][0]))
            : glm::dvec3(0, std::asin(sine), std::atan2(-m[1][0], m[1][1]));
    return glm::degrees(out) + 0.0; // no zero below zero
}

glm::dmat4 placeOf(const glm::dvec3& at, const glm::dvec3& turn) {
    return glm::translate(glm::dmat4(1), at) * glm::mat4_cast(turned(turn));
}

} // namespace zl::solids
