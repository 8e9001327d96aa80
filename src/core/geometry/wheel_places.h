#pragma once
#include "core/model/model.h"

namespace zl::geometry {

/// A part that turns on a node, as a wheel on its hub.
struct PlacedPart {
    int node = -1;          ///< the topmost of the part
    std::vector<int> nodes; ///< it, with all that hangs below it and belongs to it
    std::string hubName;    ///< what it turns on is called
    int hub = -1;           ///< that node; -1 where there is none
    glm::dvec3 centre{0};   ///< of the part's bounds, in the world
};

/// A node with what hangs below it, but for what `others` (patterns; none leaves all) match below it, with
/// all that hangs there.
std::vector<int> belonging(const Model& model, int node, const std::vector<std::string>& others);

/// Every node that `parts` matches ("wheel.*") and that shows something, itself or below it, with the node
/// that is called as `on` says ("hub.*"), where the star stands for what it stood for in `parts`. What hangs
/// below a part but is matched by `without` ("brake.*", with commas between), with all below it, does not
/// belong to it.
std::vector<PlacedPart> placedParts(const Model& model, std::string_view parts, std::string_view on,
                                    std::string_view without = {});

} // namespace zl::geometry
