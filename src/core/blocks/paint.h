#pragma once
#include "core/blocks/crossed.h"
#include "core/model/block_build.h"

namespace zl::blocks {

/// Paints to choose from by their looks.
class PaintBox {
public:
    explicit PaintBox(const std::vector<Paint>& paints);
    /// The one that looks most like a colour of linear light; 0 where there are none.
    std::uint8_t nearest(const glm::vec3& light) const;

private:
    std::vector<glm::vec3> perceived_;
};

/// Gives every block the paint nearest to what the surface wears there; one that no surface goes through gets
/// that of the block that is nearest to it through others. `mirrored`: both sides along X get that of both
/// together.
void paint(Build& build, const Crossed& crossed, const std::vector<Paint>& paints, bool mirrored);

} // namespace zl::blocks
