#pragma once
#include "core/model/model.h"

#include <functional>
#include <string_view>

namespace zl::demo {

/// A bone as it is drawn: where it begins, in metres, and what it hangs on.
struct DrawnBone {
    std::string_view name;
    int above = -1;
    glm::dvec3 place{0};
};

/// Which two bones a corner hangs on, and how much on the second.
struct Hung {
    int first = 0, second = 0;
    float onSecond = 0;
};

/// One ring of a tube: where its middle is and its two half axes; both zero for a closed end.
struct Ring {
    glm::dvec3 middle{0}, u{0}, v{0};
};

/// Puts together a mesh that hangs on bones, of tubes and sheets with UVs of their own on the material's
/// picture. Every part has a number by which morph targets find it.
class Jointed {
public:
    using Hang = std::function<Hung(const glm::dvec3&)>;
    /// Where a sheet is, at u to the right and v upward in 0–1.
    using Sheet = std::function<glm::dvec3(double u, double v)>;
    using Shift = std::function<glm::dvec3(const glm::dvec3& place, double u, double v)>;

    /// What is added from now on wears this material, lies in this part of its picture (left, top, width,
    /// height) and is called by this number.
    Jointed& wear(int material, glm::dvec4 onPicture = {0, 0, 1, 1}, int part = 0);
    /// What is added from now on hangs so.
    Jointed& hang(Hang hang);
    Jointed& hangOn(int bone);
    /// A tube through rings, from the first to the last, u × v pointing along it.
    Jointed& tube(const std::vector<Ring>& rings, int sides);
    /// A sheet seen from where u goes to the right and v upward.
    Jointed& sheet(int across, int up, const Sheet& at);
    /// A ball, or what half axes make of one.
    Jointed& ball(glm::dvec3 middle, glm::dvec3 halfAxes, int sides, int rings);

    /// How far a morph target moves the corners of a part.
    Jointed& morph(const std::string& name, const std::vector<int>& parts, const Shift& shift);

    /// The mesh with normals, its corners split at edges harder than `crease` radians.
    Mesh take(const std::string& name, double crease = 0.9);

private:
    void corner(const glm::dvec3& place, double u, double v);
    void triangle(std::size_t a, std::size_t b, std::size_t c);

    Mesh mesh_{.uvSets = {{}}};
    std::vector<int> materials_, parts_;
    std::vector<glm::dvec2> own_; ///< where a corner is on its part
    Hang hang_ = [](const glm::dvec3&) { return Hung{}; };
    int material_ = 0, part_ = 0;
    glm::dvec4 onPicture_{0, 0, 1, 1};
};

/// A smooth step from 0 at `from` to 1 at `to`.
double eased(double x, double from, double to);

/// A turn about X, then Y, then Z, in degrees.
glm::dquat degrees(double x, double y = 0, double z = 0);
/// A sine that comes round once from t = 0 to 1, begun earlier by `shift` rounds.
double wave(double t, double shift = 0);

/// Adds the bones as nodes below `above`, and a skin of them. Returns the first one's index.
int addBones(Model& model, const std::vector<DrawnBone>& bones, int above, const std::string& skin);

/// What a bone does in the course of a clip, at `t` from 0 to 1: a turn on top of its rest, or its place.
using TurnOverTime = std::function<glm::dquat(double t)>;
using PlaceOverTime = std::function<glm::dvec3(double t)>;

/// A clip as an animation program writes it: every bone with a key at every one of `perSecond` frames.
class Sampled {
public:
    Sampled(std::string name, double seconds, double perSecond)
        : clip_{std::move(name), {}}, seconds_(seconds), frames_(int(seconds * perSecond + 0.5)) {}
    Sampled& turn(int node, const TurnOverTime& turn);
    Sampled& place(int node, const PlaceOverTime& place);
    /// Weights of all morph targets of a node.
    Sampled& weights(int node, std::size_t targets, const std::function<std::vector<float>(double)>& at);
    std::shared_ptr<const Clip> take() { return std::make_shared<const Clip>(std::move(clip_)); }

private:
    Channel& channel(int node, Channel::Target target);
    Clip clip_;
    double seconds_;
    int frames_;
};

} // namespace zl::demo
