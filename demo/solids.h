#pragma once
#include "core/model/model.h"

namespace zl::demo {

/// A mesh put together of boxes and turned profiles, with hard edges, UVs of one picture a metre, and a
/// material a part. Metres, Y up.
class Solids {
public:
    /// What is added from now on wears this material (an index into the model's).
    Solids& wear(int material) {
        material_ = material;
        return *this;
    }
    Solids& box(glm::dvec3 centre, glm::dvec3 half, double turn = 0, double lean = 0);
    /// A profile of (radius, height) turned about an axis through `foot` (0 X, 1 Y, 2 Z).
    Solids& turned(const std::vector<glm::dvec2>& profile, glm::dvec3 foot, int axis = 1, int sides = 24);
    /// A round bar between two points.
    Solids& bar(glm::dvec3 from, glm::dvec3 to, double radius, int sides = 10);
    /// A bar along a path of points.
    Solids& rope(const std::vector<glm::dvec3>& path, double radius, int sides = 8);
    /// A ring of bars about `middle`; `u` and `v` are its half axes.
    Solids& ring(glm::dvec3 middle, glm::dvec3 u, glm::dvec3 v, double radius, int parts = 24);
    Mesh take(const std::string& name);

private:
    void quad(const glm::dvec3 (&corner)[4], const glm::dvec2 (&uv)[4], const glm::dvec3 (&normal)[4]);
    Mesh mesh_;
    std::vector<int> materials_;
    int material_ = 0;
};

/// A node in a model, with a mesh when it has one; returns its index.
int addNode(Model& model, const std::string& name, int parent, const glm::dmat4& local, Mesh mesh = {});

} // namespace zl::demo
