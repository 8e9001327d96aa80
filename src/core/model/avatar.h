#pragma once
#include "core/model/image.h"

#include <glm/glm.hpp>
#include <nlohmann/json.hpp>

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace zl {

// What makes a figure an avatar, as VRM 1.0 (open standard on glTF) has it. Nodes are meant by Node::key, so
// that a set-up stays right when nodes go, change places or get other names; materials by name.

/// Node::key of a node; 0 for none.
using NodeKey = int;

/// A face that the avatar can make.
struct Expression {
    struct Morph {
        NodeKey node = 0; ///< 0, or a node that is gone: every mesh with such a morph target
        std::string morph;
        double weight = 1;
    };
    struct Colour {
        std::string material, kind; ///< "color", "emissionColor", …
        glm::dvec4 to{1};
    };
    struct Placement {
        std::string material;
        glm::dvec2 scale{1}, offset{0};
    };
    enum class Override { None, Block, Blend };

    std::string name;
    bool custom = false; ///< not one of the standard's own
    bool binary = false; ///< wholly or not at all
    std::vector<Morph> morphs;
    std::vector<Colour> colours;
    std::vector<Placement> placements;
    Override blink = Override::None, lookAt = Override::None, mouth = Override::None;
};

/// How the eyes follow something.
struct LookAt {
    enum class By { Bones, Expressions };
    /// So far aside in degrees is the most, and gives so many degrees of the eyes or so much of an
    /// expression.
    struct Range {
        double most = 90, gives = 10;
    };
    By by = By::Bones;
    glm::dvec3 eyes{0}; ///< between the eyes, in the head bone's space
    Range inward, outward, up, down;
};

/// Whether the avatar's own wearer sees a part: "auto", "both", "thirdPersonOnly", "firstPersonOnly".
struct SeenByWearer {
    NodeKey node = 0;
    std::string whom = "auto";
};

/// A ball, or a capsule from one place to another, that hair and skirts do not swing into; in the node's
/// space.
struct SpringCollider {
    NodeKey node = 0;
    glm::dvec3 from{0};
    std::optional<glm::dvec3> to;
    double radius = 0;
};
struct ColliderGroup {
    std::string name;
    std::vector<int> colliders; ///< indices into Avatar::colliders
};
struct SpringJoint {
    NodeKey node = 0;
    double radius = 0, stiffness = 1, gravity = 0, drag = 0.5;
    glm::dvec3 gravityTo{0, -1, 0};
};
/// A chain of bones that swings.
struct Spring {
    std::string name;
    std::vector<SpringJoint> joints;
    std::vector<int> groups; ///< indices into Avatar::groups
    NodeKey centre = 0;
};

/// A node that turns as another does.
struct TurnConstraint {
    NodeKey node = 0, source = 0;
    std::string kind; ///< "roll", "aim" or "rotation"
    std::string axis; ///< "X", …, "PositiveX", …; empty for "rotation"
    double weight = 1;
};

struct Avatar {
    std::string version = "1.0"; ///< of the file that it was read from
    /// Whose it is and what may be done with it: the standard's `meta` object without its picture.
    nlohmann::json licence = nlohmann::json::object();
    std::shared_ptr<const Image> thumbnail;
    std::map<std::string, NodeKey, std::less<>> bones; ///< by role
    std::vector<Expression> expressions;
    std::optional<LookAt> lookAt;
    std::vector<SeenByWearer> seen;
    std::vector<SpringCollider> colliders;
    std::vector<ColliderGroup> groups;
    std::vector<Spring> springs;
    std::vector<TurnConstraint> constraints;

    const Expression* expression(std::string_view name) const {
        for (const Expression& e : expressions)
            if (e.name == name) return &e;
        return nullptr;
    }
};

/// Extensions of glTF that are not understood here and are carried through: by name, as they were. Pictures
/// that they name by `{"…Texture": {"index": k}}` are pictures[k].
struct KeptExtensions {
    nlohmann::json byName = nlohmann::json::object();
    std::vector<std::shared_ptr<const Image>> pictures;
};

} // namespace zl
