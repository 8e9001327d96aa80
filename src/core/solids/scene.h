#pragma once
#include "core/model/material.h"
#include "core/solids/solid.h"

#include <glm/gtc/quaternion.hpp>

#include <map>
#include <memory>
#include <string>
#include <vector>

namespace zl {
struct Mesh;
struct Model;
} // namespace zl

/// A scene of solids, as they stand beside one another: each with its place, what its faces look like, what
/// physics does with it, in groups, and with lights. Metres, Y up, facing +Z; angles in degrees.
namespace zl::solids {

/// What a face is made of.
enum class Stuff { Plain, Wood, Stone, Metal, Glass, Cloth };
inline constexpr std::string_view stuffNames[] = {"plain", "wood", "stone", "metal", "glass", "cloth"};

/// What a world does with a solid: it stays where it is, it falls and can be pushed, or one walks through it.
enum class Physics { Stands, Falls, LetsThrough };
inline constexpr std::string_view physicsNames[] = {"stands", "falls", "lets-through"};

struct Look {
    Stuff stuff = Stuff::Plain;
    glm::vec3 colour{0.8f}; ///< sRGB, 0 to 1
    float glow = 0;         ///< how much light of its own it gives, 0 to 1
    std::string picture;    ///< a file beside the scene's; empty for none
    UvPlacement placement;  ///< of the picture on the face's UVs

    bool operator==(const Look&) const = default;
};

/// Solids, groups and lights are known by numbers above 0 that no other of the scene ever has.
using Number = int;

struct Solid {
    std::string name;
    Shape shape;
    glm::dvec3 at{0};   ///< of its middle
    glm::dvec3 turn{0}; ///< about X, then Y, then Z
    Number group = 0;   ///< 0 for none
    Physics physics = Physics::Stands;
    Look look;
    std::map<int, Look> faces; ///< those that look otherwise, by Face

    const Look& lookOf(int face) const {
        const auto own = faces.find(face);
        return own == faces.end() ? look : own->second;
    }
    bool operator==(const Solid&) const = default;
};

struct Group {
    std::string name;
    Number within = 0; ///< the group that it is part of; 0 for none
    Number lead = 0;   ///< the solid of it that the others go by; 0 for the first

    bool operator==(const Group&) const = default;
};

/// A sun shines from far away, a lamp all around it, an area on the side that its face looks to.
enum class LightKind { Sun, Lamp, Area };
inline constexpr std::string_view lightNames[] = {"sun", "lamp", "area"};

struct Light {
    std::string name;
    LightKind kind = LightKind::Lamp;
    glm::dvec3 at{0};
    glm::dvec3 turn{0};   ///< an area and a sun shine down before it
    glm::vec3 colour{1};  ///< sRGB, 0 to 1
    double strength = 1;  ///< light on what faces it: a sun's anywhere, a lamp's and an area's at 1 metre
    glm::dvec2 size{0.1}; ///< a lamp is a ball of size.x metres, an area size.x by size.y; a sun is
                          ///< size.x degrees wide

    bool operator==(const Light&) const = default;
};

struct Scene {
    std::map<Number, Solid> solids;
    std::map<Number, Group> groups;
    std::map<Number, Light> lights;
    int sides = 32; ///< edges around what is round

    /// One that no part of the scene has.
    Number fresh() const;
    /// The groups within each, and what is in none under 0, by number.
    std::map<Number, std::vector<Number>> groupsWithin() const;
    std::map<Number, std::vector<Number>> solidsIn() const;
    /// The solid that a group goes by: its lead, else its first or that of the first group in it; 0 where it
    /// is empty.
    Number leadOf(Number group) const;

    bool operator==(const Scene&) const = default;
};

inline constexpr std::size_t mostSolids = 20000;
inline constexpr double furthest = 1e5; ///< metres from the middle
inline constexpr Range strengths{0, 1e4}, lightSizes{0, 1000}, sidesAround{8, 96};

/// Throws Error naming what is wrong: a number that is none or beyond its range, a group that is not there,
/// or one within itself.
void demandScene(const Scene& scene);
/// The same for one part of it, whatever groups there are.
void demandSolid(const Solid& solid);
void demandLight(const Light& light);

/// A turn about X, then Y, then Z as one, and back (Z and X between −180 and 180, Y between −90 and 90).
glm::dquat turned(const glm::dvec3& degrees);
glm::dvec3 degreesOf(const glm::dquat& turn);
/// From a solid's or a light's own space to the scene's.
glm::dmat4 placeOf(const glm::dvec3& at, const glm::dvec3& turn);

} // namespace zl::solids
