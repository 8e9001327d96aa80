#include "core/blocks/greedy_mesh.h"

#include "core/blocks/faces.h"
#include "core/texture/colour_transfer.h"

#include <algorithm>
#include <map>
#include <tbb/parallel_for.h>

namespace zl::blocks {

namespace {

constexpr std::uint8_t whole = 0b1111;

/// A flat face in cells, its corners against the clock seen from outside.
struct Piece {
    std::array<glm::ivec3, 4> corners{};
    int count = 4;
    std::uint8_t colour = 0;
};

/// The colour of each side that is seen whole in one layer, one more; 0 for none.
class Layer {
public:
    Layer(const Build& build, int side, int at) : axis_(side / 2), at_(at + side % 2), front_(side % 2) {
        u_ = (axis_ + 1) % 3, v_ = (axis_ + 2) % 3;
        wide_ = build.size()[u_], high_ = build.size()[v_];
        colours_.assign(std::size_t(wide_) * std::size_t(high_), 0);
        const glm::ivec3 size = build.size();
        const std::size_t strides[] = {1, std::size_t(size.x), std::size_t(size.x) * std::size_t(size.y)};
        const bool atEnd = front_ ? at + 1 == size[axis_] : at == 0;
        const std::size_t start = std::size_t(at) * strides[axis_],
                          toNext = front_ ? strides[axis_] : ~strides[axis_] + 1;
        for (int v = 0; v < high_; ++v)
            for (int u = 0; u < wide_; ++u) {
                const std::size_t index = start + std::size_t(u) * strides[u_] + std::size_t(v) * strides[v_];
                if (!build.isThere(index)) continue;
                const Block& block = build.block(index);
                if (block.kind != Kind::Cube && covers(block, side) != whole) continue;
                if (!atEnd && build.isThere(index + toNext)) {
                    const Block& next = build.block(index + toNext);
                    if (next.kind == Kind::Cube || covers(next, side ^ 1) == whole) continue;
                }
                of(u, v) = std::uint16_t(block.colour + 1);
            }
    }
    /// Takes rectangles until nothing is left.
    void take(bool merges, std::vector<Piece>& out) {
        for (int v = 0; v < high_; ++v)
            for (int u = 0; u < wide_; ++u) {
                const std::uint16_t colour = of(u, v);
                if (colour == 0) continue;
                int wide = 1, high = 1;
                while (merges && u + wide < wide_ && of(u + wide, v) == colour) ++wide;
                const auto isAlike = [&](int row) {
                    for (int k = 0; k < wide; ++k)
                        if (of(u + k, row) != colour) return false;
                    return true;
                };
                while (merges && v + high < high_ && isAlike(v + high)) ++high;
                for (int row = v; row < v + high; ++row)
                    std::fill_n(&of(u, row), std::size_t(wide), std::uint16_t(0));
                Piece piece;
                piece.colour = std::uint8_t(colour - 1);
                const glm::ivec2 corners[] = {{u, v}, {u + wide, v}, {u + wide, v + high}, {u, v + high}};
                for (int k = 0; k < 4; ++k) {
                    const glm::ivec2 at = corners[front_ ? k : 3 - k];
                    glm::ivec3& corner = piece.corners[std::size_t(k)];
                    corner[axis_] = at_, corner[u_] = at.x, corner[v_] = at.y;
                }
                out.push_back(piece);
            }
    }

private:
    std::uint16_t& of(int u, int v) { return colours_[std::size_t(v) * std::size_t(wide_) + std::size_t(u)]; }
    int axis_, at_, u_ = 0, v_ = 0, wide_ = 0, high_ = 0;
    bool front_;
    std::vector<std::uint16_t> colours_;
};

/// What greedy rectangles leave: slopes, and sides that are not whole.
void takeSloped(const Build& build, int z, std::vector<Piece>& out) {
    const glm::ivec3 size = build.size();
    for (int y = 0; y < size.y; ++y)
        for (int x = 0; x < size.x; ++x) {
            const Block* block = build.at({x, y, z});
            if (!block || block->kind == Kind::Cube) continue;
            for (const Face& face : facesOf(block->kind, block->turn)) {
                if (face.side >= 0 && face.quarters == whole) continue;
                if (face.side >= 0 && !isSeen(face, build.at(glm::ivec3(x, y, z) + sides[face.side])))
                    continue;
                Piece piece;
                piece.count = face.count, piece.colour = block->colour;
                for (std::size_t k = 0; k < std::size_t(face.count); ++k)
                    piece.corners[k] = face.corners[k] + glm::ivec3(x, y, z);
                out.push_back(piece);
            }
        }
}

} // namespace

Mesh greedyMesh(const Hull& hull, bool merges) {
    const glm::ivec3 size = hull.build.size();
    std::vector<std::pair<int, int>> jobs; // side and layer; side 6 for slopes
    for (int side = 0; side < 6; ++side)
        for (int at = 0; at < size[side / 2]; ++at) jobs.emplace_back(side, at);
    for (int z = 0; z < size.z; ++z) jobs.emplace_back(6, z);
    std::vector<std::vector<Piece>> pieces(jobs.size());
    tbb::parallel_for(std::size_t(0), jobs.size(), [&](std::size_t k) {
        const auto [side, at] = jobs[k];
        if (side == 6) return takeSloped(hull.build, at, pieces[k]);
        Layer(hull.build, side, at).take(merges, pieces[k]);
    });

    std::map<std::uint8_t, std::vector<const Piece*>> byColour;
    for (const auto& list : pieces)
        for (const Piece& piece : list)
            byColour[hull.paints.empty() ? std::uint8_t(0) : piece.colour].push_back(&piece);
    Mesh out;
    out.name = "blocks";
    const glm::dvec3 corner = hull.cornerOf(hull.first);
    for (const auto& [colour, list] : byColour) {
        MaterialRun run;
        run.firstTriangle = std::uint32_t(out.triangleCount());
        run.material = colour < hull.paints.size() ? int(colour) : -1;
        for (const Piece* piece : list) {
            const auto base = std::uint32_t(out.positions.size());
            const glm::vec3 normal =
                glm::normalize(glm::cross(glm::vec3(piece->corners[1] - piece->corners[0]),
                                          glm::vec3(piece->corners[2] - piece->corners[0])));
            for (std::size_t k = 0; k < std::size_t(piece->count); ++k) {
                out.positions.emplace_back(corner + glm::dvec3(piece->corners[k]) * hull.edge);
                out.normals.push_back(normal);
            }
            for (std::uint32_t k = 2; k < std::uint32_t(piece->count); ++k)
                out.indices.insert(out.indices.end(), {base, base + k - 1, base + k});
        }
        run.triangleCount = std::uint32_t(out.triangleCount()) - run.firstTriangle;
        out.runs.push_back(run);
    }
    return out;
}

Model modelOf(Hull hull, const std::string& name) {
    Model out;
    out.name = name;
    for (const Paint& paint : hull.paints) {
        Material material;
        material.name = paint.name;
        material.baseColour = glm::vec4(texture::fromSrgb(paint.colour), 1);
        out.materials.push_back(std::move(material));
    }
    auto mesh = std::make_shared<const Mesh>(greedyMesh(hull));
    hull.mesh = mesh;
    if (!mesh->indices.empty()) {
        out.meshes.push_back(mesh);
        Node node;
        node.name = "blocks";
        node.mesh = 0;
        out.nodes.push_back(std::move(node));
    }
    out.blocks = std::make_shared<const Hull>(std::move(hull));
    return out;
}

Model showing(Hull hull, const Model& of) {
    Model built = modelOf(std::move(hull), of.name), out = of;
    if (built.meshes.empty()) return out;
    out.nodes[std::size_t(shownNodes(of)[0])].mesh = 0;
    out.meshes = std::move(built.meshes);
    out.materials = std::move(built.materials);
    out.blocks = std::move(built.blocks);
    return out;
}

} // namespace zl::blocks
