#pragma once
#include "core/base/hash.h"
#include "core/model/node_path.h"

#include <nlohmann/json_fwd.hpp>

#include <variant>

namespace zl::selection {

/// Triangles of one object by number. They hold where the object's triangle list is the same as when they
/// were stored, on a twin too, and where somebody has agreed to others in their place.
struct StoredFaces {
    /// The same faces where the object has another triangle list, as in another size.
    struct Elsewhere {
        Hash topology = 0;
        std::vector<std::uint32_t> faces;
        bool operator==(const Elsewhere&) const = default;
    };
    NodePath object;
    Hash topology = 0;                ///< topologyHash of the object's mesh
    std::vector<std::uint32_t> faces; ///< rising
    std::vector<Elsewhere> others{};

    /// Their numbers on that triangle list; null where they do not hold on it.
    const std::vector<std::uint32_t>* on(Hash list) const {
        if (list == topology) return &faces;
        for (const Elsewhere& other : others)
            if (other.topology == list) return &other.faces;
        return nullptr;
    }

    bool operator==(const StoredFaces&) const = default;
};

/// All triangles of the nodes whose names match (patterns, base/pattern.h) or whose paths are named.
struct OfParts {
    std::vector<std::string> names;
    std::vector<NodePath> paths;
    bool operator==(const OfParts&) const = default;
};
/// All triangles with a material whose name matches.
struct OfMaterials {
    std::vector<std::string> names;
    bool operator==(const OfMaterials&) const = default;
};
/// What hangs together (by place) with the stored triangles.
struct OfLooseParts {
    StoredFaces from;
    bool operator==(const OfLooseParts&) const = default;
};
/// What is reached from the stored triangles without crossing an edge that is bent by more than `angle`
/// radians, or that three triangles share.
struct OfRegion {
    StoredFaces from;
    double angle = 0.5235987755982988; // 30°
    bool operator==(const OfRegion&) const = default;
};
/// Triangles whose middle lies in a box of world space, metres. A height range is a box with one axis alone.
struct InBox {
    glm::dvec3 least{-1e9}, most{1e9};
    bool operator==(const InBox&) const = default;
};
/// Triangles whose corners hang on the bone with at least `weight` on average.
struct OnBone {
    std::string bone;
    double weight = 0.5;
    bool operator==(const OnBone&) const = default;
};
struct OfFaces {
    StoredFaces stored;
    bool operator==(const OfFaces&) const = default;
};
/// A selection that the piece keeps by name.
struct OfNamed {
    std::string name;
    bool operator==(const OfNamed&) const = default;
};

using What = std::variant<OfParts, OfMaterials, OfLooseParts, OfRegion, InBox, OnBone, OfFaces, OfNamed>;

struct Term {
    What what;
    bool takesAway = false;
    bool operator==(const Term&) const = default;
};

/// Triangles of a model, said so that they are found again: terms, each joined to or taken away from those
/// before it. No terms choose nothing.
struct Selection {
    std::vector<Term> terms;
    bool empty() const { return terms.empty(); }
    bool operator==(const Selection&) const = default;
};

/// All that a model shows.
inline Selection everything() {
    return {{Term{OfParts{{"*"}, {}}, false}}};
}

/// [{"parts": ["wheel*"]}, {"less": true, "materials": ["glass"]}, …]; docs/selections.md has all of them.
/// Reading throws Error naming the term that is wrong.
nlohmann::json toJson(const Selection& selection);
Selection fromJson(const nlohmann::json& json);

/// Names of the kept selections that it uses.
std::vector<std::string> namesIn(const Selection& selection);

/// "parts wheel*, without material glass": in few words.
std::string inWords(const Selection& selection);

} // namespace zl::selection
