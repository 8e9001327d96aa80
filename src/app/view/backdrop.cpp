#include "app/view/backdrop.h"

#include <array>
#include <cmath>
#include <map>

namespace zl::app {

std::vector<glm::vec3> figureOutline(const glm::dvec3& foot, double height, double yaw) {
    const glm::dvec3 right(std::cos(yaw), 0, -std::sin(yaw));
    const auto at = [&](double x, double y) {
        return glm::vec3(foot + right * (x * height) + glm::dvec3(0, y * height, 0));
    };
    std::vector<glm::vec3> out;
    const auto add = [&](double ax, double ay, double bx, double by, double cx, double cy) {
        out.insert(out.end(), {at(ax, ay), at(bx, by), at(cx, cy)});
    };
    const auto quad = [&](double x0, double x1, double y0, double x2, double x3,
                          double y1) { // bottom x0–x1, top x2–x3
        add(x0, y0, x1, y0, x3, y1);
        add(x0, y0, x3, y1, x2, y1);
    };
    const double pi = 3.14159265358979323846;
    for (int i = 0; i < 24; ++i) {
        const double a = 2 * pi * i / 24, b = 2 * pi * (i + 1) / 24;
        add(0, 0.925, 0.075 * std::cos(a), 0.925 + 0.075 * std::sin(a), 0.075 * std::cos(b),
            0.925 + 0.075 * std::sin(b));
    }
    quad(-0.115, 0.115, 0.47, -0.13, 0.13, 0.80); // trunk
    quad(-0.11, -0.01, 0, -0.115, -0.003, 0.465); // legs, a little apart
    quad(0.01, 0.11, 0, 0.003, 0.115, 0.465);
    quad(-0.185, -0.14, 0.42, -0.175, -0.137, 0.79); // arms
    quad(0.14, 0.185, 0.42, 0.137, 0.175, 0.79);
    return out;
}

std::vector<glm::vec3> floorGrid(double step, int cells) {
    std::vector<glm::vec3> out;
    const double reach = step * cells;
    for (int i = -cells; i <= cells; ++i) {
        out.insert(out.end(), {glm::vec3(i * step, 0, -reach), glm::vec3(i * step, 0, reach)});
        out.insert(out.end(), {glm::vec3(-reach, 0, i * step), glm::vec3(reach, 0, i * step)});
    }
    return out;
}

double gridStep(double extent, double unit) {
    const double wanted = std::max(extent, 1e-9) / unit / 6;
    const double power = std::pow(10, std::floor(std::log10(wanted)));
    const double lead = wanted / power;
    return unit * power * (lead < 1.5 ? 1 : lead < 3.5 ? 2 : lead < 7.5 ? 5 : 10);
}

std::vector<glm::vec3> sharpEdges(const std::vector<glm::vec3>& positions,
                                  const std::vector<unsigned>& indices, const glm::mat4& placing) {
    struct Edge {
        glm::vec3 normal;
        int faces = 0;
        bool sharp = false;
    };
    std::map<std::pair<unsigned, unsigned>, Edge> edges;
    for (std::size_t t = 0; t + 2 < indices.size(); t += 3) {
        const glm::vec3 n = glm::normalize(glm::cross(positions[indices[t + 1]] - positions[indices[t]],
                                                      positions[indices[t + 2]] - positions[indices[t]]));
        for (int k = 0; k < 3; ++k) {
            const unsigned a = indices[t + k], b = indices[t + (k + 1) % 3];
            Edge& edge = edges[{std::min(a, b), std::max(a, b)}];
            if (edge.faces++ == 0)
                edge.normal = n;
            else
                edge.sharp |= glm::dot(edge.normal, n) < 0.866f;
        }
    }
    std::vector<glm::vec3> out;
    for (const auto& [ends, edge] : edges)
        if (edge.sharp || edge.faces == 1)
            for (const unsigned v : {ends.first, ends.second})
                out.push_back(glm::vec3(placing * glm::vec4(positions[v], 1)));
    return out;
}

} // namespace zl::app
