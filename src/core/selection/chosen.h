#pragma once
#include "core/base/progress.h"
#include "core/selection/selection.h"

#include <functional>

namespace zl::selection {

/// Triangles of a model: one mark a triangle for each node that shows a mesh; an empty list where none of the
/// node's are chosen.
struct Chosen {
    std::vector<std::vector<char>> faces; ///< by node

    std::size_t count() const;
    std::size_t countOf(std::size_t node) const;
    /// Numbers of a node's marked triangles, or of those that are not, rising.
    std::vector<std::uint32_t> trianglesOf(std::size_t node, bool marked) const;
    bool isWhole(const Model& model, std::size_t node) const;
    /// Adds the marked triangles of a node, or takes them away; no marks change nothing.
    void join(std::size_t node, const std::vector<char>& marks, bool takesAway = false);
    bool has(std::size_t node, std::size_t face) const {
        return node < faces.size() && !faces[node].empty() && faces[node][face];
    }
};

/// What stands for a mesh's triangle list: the same for two meshes whose corners are numbered and joined
/// alike, wherever these lie.
Hash topologyHash(const Mesh& mesh);

/// Finds a kept selection by name; null when there is none.
using KeptSelections = std::function<const Selection*(std::string_view name)>;

/// The triangles that `selection` chooses. Patterns that match nothing choose nothing. Throws Error, with the
/// reason, for stored faces whose object is not there or has another triangle list, for a bone or a kept
/// selection that is not there, and for kept selections that use one another in a circle.
Chosen chosen(const Model& model, const Selection& selection, const KeptSelections& kept = {},
              const Progress& progress = {});

/// Chosen triangles as something that can be kept: whole nodes by path, others as stored faces.
Selection stored(const Model& model, const Chosen& chosen);

} // namespace zl::selection
