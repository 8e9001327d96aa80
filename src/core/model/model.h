#pragma once
#include "core/base/units.h"
#include "core/model/image.h"
#include "core/model/material.h"
#include "core/model/mesh.h"

#include <glm/gtc/quaternion.hpp>

#include <filesystem>
#include <map>
#include <memory>
#include <optional>

namespace zl::blocks {
struct Hull;
}
namespace zl::solids {
struct Shown;
}

namespace zl {

struct Avatar;
struct KeptExtensions;
struct OnMap;

/// How far a bone turns about its own X, then Y, then Z, in radians.
struct TurnLimits {
    glm::dvec3 least{0}, most{0};
};

/// The highest place that a mark may stand in.
inline constexpr int mostMarkPlace = 255;

/// Most levels of detail that a model may have.
inline constexpr int mostLevels = 16;

struct Node {
    std::string name;
    int parent = -1; ///< always smaller than the node's own index, or -1
    glm::dmat4 local{1.0};
    int mesh = -1;
    int skin = -1;
    std::optional<TurnLimits> turns{}; ///< of a bone whose rig says so
    int level =
        0; ///< 0 for what is seen from near; a coarser copy of its parent above that (geometry/levels.h)

    int key = 0; ///< by which an avatar's set-up means it (model/avatar.h); 0 for a node that none means
    std::shared_ptr<const KeptExtensions> kept{}; ///< what its file says of it and is not understood here

    std::map<int, std::string> marks{}; ///< what a game is to know of it, by the place that each stands in

    bool visible = true; ///< false: it is there, with all that moves it, and what it shows is not seen

    /// Whether it is what a model shows: a mesh that is seen, and no coarser copy of one.
    bool isShown() const { return mesh >= 0 && level == 0 && visible; }
};

struct Skin {
    std::string name;
    std::vector<int> joints; ///< node indices
    std::vector<glm::mat4> inverseBind;
    int root = -1;
};

/// One animated property of one node, as in glTF: times in seconds, values packed by target
/// (translation and scale 3, rotation 4 as x y z w, weights one for each morph target).
struct Channel {
    enum class Target { Translation, Rotation, Scale, Weights };
    enum class Curve { Linear, Step, CubicSpline };
    int node = -1;
    Target target = Target::Translation;
    Curve curve = Curve::Linear;
    std::vector<float> times;
    std::vector<float> values;
};

struct Clip {
    std::string name;
    std::vector<Channel> channels;
    /// How far it went in its course before it was made to stay on the spot, for a game to add back: metres
    /// in the model's own space, before its placement; 0 where nothing was taken out.
    glm::dvec3 way{0};
};

/// A place in a platform's list of movements, and the clip that is played for it.
struct ClipSlot {
    std::string name;
    int clip = -1; ///< index into Model::clips
};

/// A shape that physics uses in place of the model: in metres, in the same space as the placed model.
struct Collider {
    std::string name;
    std::string
        kind; ///< "box", "cylinder", "hull" for a convex piece, or "mesh" for a surface with its hollows
    std::shared_ptr<const Mesh> mesh;
    glm::dmat4 placement{1.0};
};

/// What a file's numbers mean: assumed until the file or the user says so.
struct SourceFrame {
    Unit unit{"m", "metres", 1.0};
    Up up = Up::Y;
    bool unitAssumed = true;
    bool upAssumed = true;

    /// File coordinates to metres with Y up. Z up is turned by -90° about X.
    glm::dmat4 toMetres() const;
};

/// A piece's shape and everything that hangs on it. A value: heavy parts are shared and never changed
/// in place, so a copy is cheap and a step cannot disturb what another holds.
/// World space is `placement * node chain`: metres, right-handed, Y up, facing +Z.
struct Model {
    std::string name;
    std::string format; ///< id of the format it was read from
    std::vector<Node> nodes;
    std::vector<std::shared_ptr<const Mesh>> meshes;
    std::vector<Material> materials;
    std::vector<std::shared_ptr<const Image>> images;
    std::vector<Skin> skins;
    std::vector<std::shared_ptr<const Clip>> clips;
    std::vector<ClipSlot> clipSlots; ///< filled ones, each slot once
    std::vector<Collider> colliders;
    std::vector<std::string> surfaceKinds; ///< what faces are made of (Mesh::surfaces), each name once
    std::string madeFor;                   ///< the version of a game's engine; empty where nothing says so
    std::shared_ptr<const OnMap> onMap;    ///< how and where a game's world has it, where it is to have it
    std::shared_ptr<const Avatar> avatar;  ///< its set-up, where it is one
    std::shared_ptr<const blocks::Hull> blocks; ///< what it is built of; ask blocks::hullOf()
    std::shared_ptr<const solids::Shown> solids; ///< the scene that it shows; ask solids::shownBy()
    std::shared_ptr<const KeptExtensions> kept;
    glm::dmat4 placement{1.0};
    SourceFrame frame;
    /// How steps have moved the whole of it since it was read, in metres. Baking leaves it as it is.
    glm::dmat4 travelled{1.0};
    bool headingKnown = false; ///< somebody said which way the front points; it is +Z in world space then
    std::vector<std::string> dropped;  ///< what the file holds and the Model does not
    std::vector<std::string> warnings; ///< what was odd about the file
    /// Every file behind it: the one it was read from, those beside it, and those that it names and that were
    /// not there, for when they come.
    std::vector<std::filesystem::path> files;
};

/// The index of a surface kind by name, which is added where the model does not know it yet.
/// Throws Error when it knows too many.
int surfaceKindIn(Model& model, const std::string& name);
/// A mesh of `from` with its surface kinds as `to` numbers them.
void bringSurfaces(Mesh& mesh, const Model& from, Model& to);

/// World matrices of all nodes, placement included.
std::vector<glm::dmat4> worldMatrices(const Model& model);
/// The model moved as a whole: placement and colliders.
Model moved(Model model, const glm::dmat4& by);
/// Sets what the file's numbers mean and replaces the conversion that the old meaning had put there.
Model withFrame(Model model, const SourceFrame& frame);

// What a model shows is its parts at level 0; coarser copies are counted by those who ask for them.

/// Triangles over all nodes that show a mesh (a mesh shown twice counts twice).
std::size_t triangleCount(const Model& model);
std::size_t vertexCount(const Model& model);
/// Nodes that show a mesh.
std::size_t objectCount(const Model& model);
std::vector<int> shownNodes(const Model& model);
/// Materials that at least one shown triangle uses; -1 (none) counts as one.
std::vector<int> usedMaterials(const Model& model);

/// How many triangles wear each material (-1: none), a mesh that several shown nodes show counted for each.
std::map<int, std::size_t> trianglesByMaterial(const Model& model);
/// Pictures that used materials refer to, in order, each once.
std::vector<int> usedImages(const Model& model);

} // namespace zl
