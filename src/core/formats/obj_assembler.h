#pragma once
#include "core/formats/obj_chunks.h"

namespace zl::formats::obj {

/// One object as it is put together: faces of one `o` (or `g`) run, in file order.
struct ObjectPlan {
    std::string name;
    struct Run {
        std::size_t chunk, firstFace, lastFace;
        int material;
    };
    std::vector<Run> runs;
};

/// Puts the chunks' corners in one row and makes meshes of the faces that plans name.
class Assembler {
public:
    explicit Assembler(std::vector<Chunk>& chunks);

    /// `only`: no other plan follows, so the corners themselves may be handed over.
    Mesh assemble(const ObjectPlan& plan, bool only);
    std::vector<glm::vec3> takePositions() { return std::move(positions_); }
    /// Faces left out so far because they refer to corners that are not in the file.
    std::size_t badFaces() const { return badFaces_; }

private:
    struct Totals {
        std::size_t positions, uvs, normals;
    };
    /// Which attributes a plan's corners have, when each has the same number as the position throughout:
    /// then corners need not be told apart.
    struct Simple {
        bool holds = true, uv = false, normal = false, polygons = false;
        std::uint32_t lowest = ~0u, highest = 0;
    };
    Simple simplicityOf(const ObjectPlan& plan) const;
    Mesh assembleSimple(const ObjectPlan& plan, const Simple& simple, bool only);
    Mesh assembleAny(const ObjectPlan& plan);
    Corner resolve(const Corner& written, const Totals& before) const;
    std::size_t faceEnd(const Chunk& chunk, std::size_t face) const {
        return face + 1 < chunk.faceStart.size() ? chunk.faceStart[face + 1] : chunk.corners.size();
    }

    std::vector<Chunk>& chunks_;
    std::vector<Totals> before_;
    Totals total_{};
    std::vector<glm::vec3> positions_, normals_, colours_;
    std::vector<glm::vec2> uvs_;
    std::vector<std::uint32_t> head_; ///< first new vertex at each position; made when needed
    std::size_t badFaces_ = 0;
};

} // namespace zl::formats::obj
