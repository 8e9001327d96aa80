#pragma once
#include <glm/glm.hpp>
#include <glm/gtc/type_precision.hpp>

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace zl {

/// A run of triangles with one material. `material` is an index into Model::materials, or -1.
struct MaterialRun {
    std::uint32_t firstTriangle = 0;
    std::uint32_t triangleCount = 0;
    int material = -1;
};

/// Offsets that a morph target adds to every vertex; `normals` is empty or as long as `positions`.
struct MorphTarget {
    std::string name;
    std::vector<glm::vec3> positions;
    std::vector<glm::vec3> normals;
};

struct Mesh;

/// How a mesh came apart in two, so that both can be put together again: selection::cutOut makes it,
/// selection::joinedBack takes it.
struct Cut {
    struct Side {
        std::vector<std::uint32_t> triangles; ///< of the whole, rising: which each of the side's was
        std::uint64_t topology = 0;           ///< selection::topologyHash of the side as it was cut
    };
    std::shared_ptr<const Mesh> whole;
    Side rest, part;
    std::string object; ///< the path of the node that showed the whole (node_path.h)
};
/// Which side of a cut a mesh is; none for most. Steps that leave a mesh's triangles as they are keep it.
struct CutSide {
    std::shared_ptr<const Cut> cut;
    bool isPart = false;
};

/// Triangles as separate arrays. Every array of corners is empty or as long as `positions`; `indices` holds
/// three valid entries a triangle, counter-clockwise seen from outside; `runs` cover all triangles in order.
/// Coordinates are the node's own; UV origin is top left. A mesh without indices is a point cloud.
struct Mesh {
    std::string name;
    std::vector<glm::vec3> positions;
    std::vector<glm::vec3> normals;
    std::vector<glm::vec4> tangents;
    std::vector<std::vector<glm::vec2>> uvSets;
    std::vector<glm::vec4> colours;
    std::vector<glm::u16vec4> joints;
    std::vector<glm::vec4> weights;
    std::vector<std::uint32_t> indices;
    std::vector<MaterialRun> runs;
    /// The surface kind of each triangle, an index into Model::surfaceKinds or -1; empty where none has one.
    std::vector<std::int16_t> surfaces;
    std::vector<MorphTarget> morphs;
    CutSide cut;

    std::size_t triangleCount() const { return indices.size() / 3; }
    std::size_t vertexCount() const { return positions.size(); }
};

/// Bytes that its arrays take.
std::size_t bytesOf(const Mesh& mesh);

/// The material of each triangle, from the runs; -1 where none is named.
std::vector<int> triangleMaterials(const Mesh& mesh);

/// What a triangle wears, as one number that is carried along with it: its material and its surface kind.
/// Those of one material follow one another in order.
enum class Wear : std::int32_t {};
/// Surface kinds that a model may have at most.
inline constexpr int mostSurfaceKinds = 254;

constexpr Wear wearOf(int material, int surface = -1) {
    return Wear((material + 1) * (mostSurfaceKinds + 2) + surface + 1);
}
constexpr int materialOf(Wear wear) {
    return int(wear) / (mostSurfaceKinds + 2) - 1;
}
constexpr int surfaceOf(Wear wear) {
    return int(wear) % (mostSurfaceKinds + 2) - 1;
}

/// What each triangle wears.
std::vector<Wear> triangleWear(const Mesh& mesh);
/// The same for materials alone.
std::vector<Wear> wearOf(const std::vector<int>& materials);
/// Gives each triangle what it wears, in the triangles' order.
void dress(Mesh& mesh, const std::vector<Wear>& wear);
/// Takes over what the triangles of `from` wear, which are as many and in the same order.
void dressAs(Mesh& mesh, const Mesh& from);

/// The same for those at the end of `mesh`, which were put there last.
void dressEnd(Mesh& mesh, const Mesh& from);

/// A mesh with only the vertices `keep` names (old index for each new vertex) and the given triangles,
/// whose indices are new ones, sorted into runs by `wear` (one an entry a triangle).
Mesh withVertices(const Mesh& mesh, const std::vector<std::uint32_t>& keep,
                  std::vector<std::uint32_t> indices, const std::vector<Wear>& wear);

} // namespace zl
