#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

#include <span>
#include <vector>

namespace zl::geometry {

struct Bounds;

/// Parallel lines along one axis that stand on a square grid. `first` is where the first line stands on the
/// two axes that follow `axis` in turn (Y, Z for X); they are `step` apart, `across` × `down` of them.
struct LineGrid {
    int axis = 0;
    glm::dvec2 first{0};
    double step = 1;
    int across = 0, down = 0;

    std::size_t count() const { return std::size_t(across) * std::size_t(down); }
    /// A point on a line.
    glm::dvec3 pointOf(std::size_t line, double along) const;
};

/// As many lines as it takes to have `most` along the longest side, over all of `bounds`. They stand off
/// round numbers, so that they do not run along the faces of what was modelled on a grid.
LineGrid linesOver(const Bounds& bounds, int axis, int most);

/// A place where a line goes through a face: in where it meets its front, out where it meets its back.
struct LineCrossing {
    double at = 0; ///< along the axis
    int turn = 0;  ///< +1 goes in, −1 goes out
};

/// A stretch of a line.
struct Stretch {
    double from = 0, to = 0;
};

/// The stretches of `a` that lie in none of `b`; all in order, those of each apart.
void takeAway(const std::vector<Stretch>& a, const std::vector<Stretch>& b, std::vector<Stretch>& out);

/// Where the lines of a grid go through a mesh, in rising order on each line.
class LineCrossings {
public:
    /// Rasterises the triangles onto the grid (depth elements, after Van Hook 1986): every line through an
    /// edge that two triangles share meets one of them, or both, or none, but never tears the surface. Linear
    /// in triangles and crossings.
    LineCrossings(const Mesh& mesh, const LineGrid& grid, const Progress& progress = {});

    std::span<const LineCrossing> of(std::size_t line) const {
        return std::span(all_).subspan(start_[line], start_[line + 1] - start_[line]);
    }
    /// What of the line is inside, where it goes in more often than out (so that parts may overlap). False,
    /// and nothing, for a line that goes in and does not come out as often: the surface is open there.
    bool insideOf(std::size_t line, std::vector<Stretch>& out) const;

private:
    std::vector<std::size_t> start_;
    std::vector<LineCrossing> all_;
};

} // namespace zl::geometry
