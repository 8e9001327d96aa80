#include "core/contact/principal_axes.h"

#include <Eigen/Eigenvalues>

namespace zl::contact {

std::optional<std::array<glm::dvec3, 3>> principalAxes(std::span<const glm::vec3> points) {
    if (points.empty()) return std::nullopt;
    glm::dvec3 middle(0);
    for (const glm::vec3& p : points) middle += glm::dvec3(p) / double(points.size());
    Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
    for (const glm::vec3& p : points) {
        const Eigen::Vector3d d(p.x - middle.x, p.y - middle.y, p.z - middle.z);
        spread += d * d.transpose();
    }
    if (!spread.allFinite()) return std::nullopt;
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(spread);
    if (solver.info() != Eigen::Success) return std::nullopt;
    std::array<glm::dvec3, 3> out;
    for (int k = 0; k < 3; ++k) {
        const Eigen::Vector3d axis = solver.eigenvectors().col(k);
        out[std::size_t(k)] = {axis.x(), axis.y(), axis.z()};
    }
    out[2] = glm::cross(out[0], out[1]);
    return out;
}

} // namespace zl::contact
