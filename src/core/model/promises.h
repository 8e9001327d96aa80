#pragma once
#include "core/model/model.h"

namespace zl {

/// The first promise of a Mesh that `mesh` breaks, in words; empty when it keeps all. Arrays are empty or as
/// long as the positions, indices are whole triangles in range, runs cover all triangles in order, every
/// number is finite, morph targets have an offset for every corner, joints and weights come together, names
/// are UTF-8.
std::string brokenPromise(const Mesh& mesh);

/// The same for a Model and everything it holds: nodes stand behind their parents, whatever is referred to by
/// number exists, skins are complete, clips hold whole keys in order, every name is UTF-8.
/// Readers see to it (formats::readModel), and steps keep it.
std::string brokenPromise(const Model& model);

/// The same, but for what the meshes hold within themselves: for one who has just looked at each of them.
std::string brokenAroundMeshes(const Model& model);

inline bool keepsPromises(const Model& model) {
    return brokenPromise(model).empty();
}

/// Numbers that one key of a channel holds; 0 when that cannot be told (weights of a node without a mesh).
std::size_t numbersOfKey(const Channel& channel, const Model& model);
/// Whether a channel's times are finite and in order, and its values whole keys for the node it animates.
bool isWholeChannel(const Channel& channel, const Model& model);

} // namespace zl
