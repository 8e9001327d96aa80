#pragma once
#include "core/model/mesh.h"

#include <vector>

namespace zl::geometry {

/// How often a surface goes around a point: 1 inside a closed one that faces outward, 0 outside, between them
/// near holes, 2 where two bodies overlap. Defined for any set of triangles (the generalised winding number,
/// Jacobson, Kavan and Sorkine-Hornung 2013); what is far is taken together in a tree (Barill, Dickson,
/// Schmidt, Levin and Jacobson 2018), to within about 0.02.
class WindingNumber {
public:
    /// The mesh is not needed afterwards. O(n log n) in triangles.
    explicit WindingNumber(const Mesh& mesh);

    double at(const glm::dvec3& point) const;

private:
    struct Triangle {
        glm::vec3 a, b, c;
    };
    /// Triangles from `first` on, with what stands for them from afar: their area-weighted normals as one,
    /// and how those spread about the middle (the first two terms of a Taylor series).
    struct Knot {
        glm::dvec3 middle{0}, normal{0};
        glm::dmat3 spread{0.0};
        double area = 0;
        double reach = 0; ///< that no corner is further from the middle than
        std::uint32_t first = 0, count = 0;
        std::uint32_t second = 0; ///< the other half; the one comes next; 0 for a leaf
    };
    static std::uint32_t knotsFor(std::uint32_t count);
    void sum(Knot& knot) const;
    void grow(std::uint32_t place, std::uint32_t first, std::uint32_t count);

    std::vector<Triangle> triangles_;
    std::vector<Knot> knots_;
};

} // namespace zl::geometry
