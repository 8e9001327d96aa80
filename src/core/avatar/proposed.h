#pragma once
#include "core/model/avatar.h"
#include "core/model/model.h"

#include <map>

namespace zl::avatar {

/// Which bone does what, as names and shape have it.
struct ProposedRoles {
    std::map<std::string, int, std::less<>> named,
        guessed; ///< by role: nodes, by their names or by where they are
};

/// Roles by bones' names; then, where required ones are open, by where bones stand in a figure that faces +Z:
/// the legs are the chains that go down farthest on both sides, the arms those that go out farthest, the head
/// is what stands highest between them.
ProposedRoles proposedRoles(const Model& model);

/// Expressions by the names of morph targets, in the standard's order, each with every target that means it.
/// Morph targets stand for themselves: `keys` are given by whoever puts it into a model.
std::vector<Expression> proposedExpressions(const Model& model);

/// How an avatar's eyes look where nothing is known: by its eye bones where it has both, else by
/// expressions; from between the eyes, or a twelfth of its height above the head bone where it has none.
LookAt proposedLookAt(const Model& model, int head, int leftEye, int rightEye);

} // namespace zl::avatar
