#include "core/geometry/foot.h"

#include <tbb/parallel_for.h>

#include <cmath>

namespace zl::geometry {

Foot footOf(const Model& model, double share) {
    Foot foot;
    const Bounds all = worldBounds(model);
    if (all.empty()) return foot;
    foot.bottom = all.min.y;
    foot.sliceHeight = all.size().y * share;
    const double top = foot.bottom + foot.sliceHeight;
    // 720 directions keep the outline exact to 0.001 % of its size and bound the points of a million-corner
    // foot.
    constexpr int directions = 720;
    struct Extreme {
        double reach = -1e300;
        glm::dvec2 point{0.0};
    };
    std::vector<Extreme> extremes(directions);
    std::vector<glm::dvec2> normals(directions), points;
    for (int i = 0; i < directions; ++i) {
        const double angle = 2 * 3.14159265358979323846 * i / directions;
        normals[i] = {std::cos(angle), std::sin(angle)};
    }
    const auto thin = [&] {
        for (const glm::dvec2& p : convexOutline(std::move(points)))
            for (int i = 0; i < directions; ++i)
                if (const double reach = glm::dot(p, normals[i]); reach > extremes[i].reach)
                    extremes[i] = {reach, p};
        points.clear();
    };
    const auto add = [&](const glm::dvec3& p) {
        foot.bounds.add(p);
        points.emplace_back(p.x, p.z);
        if (points.size() > 200000) thin();
    };
    forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4& matrix) {
        const glm::dvec4 yRow(matrix[0][1], matrix[1][1], matrix[2][1], matrix[3][1]);
        const auto heightOf = [&](std::uint32_t v) {
            return glm::dot(yRow, glm::dvec4(mesh.positions[v], 1.0));
        };
        std::vector<char> low(mesh.triangleCount());
        tbb::parallel_for(std::size_t(0), low.size(), [&](std::size_t t) {
            const std::uint32_t* c = &mesh.indices[3 * t];
            low[t] = heightOf(c[0]) <= top || heightOf(c[1]) <= top || heightOf(c[2]) <= top;
        });
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            if (!low[t]) continue;
            const std::uint32_t* c = &mesh.indices[3 * t];
            const double y[3] = {heightOf(c[0]), heightOf(c[1]), heightOf(c[2])};
            glm::dvec3 p[3];
            for (int k = 0; k < 3; ++k) p[k] = glm::dvec3(matrix * glm::dvec4(mesh.positions[c[k]], 1.0));
            for (int k = 0; k < 3; ++k) {
                const int n = (k + 1) % 3;
                if (y[k] <= top) add(p[k]);
                if ((y[k] <= top) != (y[n] <= top)) add(glm::mix(p[k], p[n], (top - y[k]) / (y[n] - y[k])));
            }
        }
    });
    thin();
    for (const Extreme& extreme : extremes)
        if (extreme.reach > -1e300) points.push_back(extreme.point);
    foot.outline = convexOutline(std::move(points));
    foot.middle = middleOf(foot.outline);
    return foot;
}

} // namespace zl::geometry
