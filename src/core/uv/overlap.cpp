#include "core/uv/overlap.h"

#include "core/uv/raster.h"

#include <map>

namespace zl::uv {

namespace {

constexpr std::uint32_t nobody = ~0u;
constexpr std::size_t mostLayers = 64; // a picture that is covered so often overlaps everywhere

/// The points of one material's picture, each with the first triangle on it.
class Ground {
public:
    explicit Ground(int edge) : edge_(edge), first_(std::size_t(edge) * std::size_t(edge), nobody) {}

    /// Calls `met(other, point)` for triangles that lie where this one lies.
    template <class Met>
    void lay(std::uint32_t id, const UvFace& face, const Met& met) {
        std::array<glm::dvec2, 3> at;
        glm::dvec2 least(1e300);
        for (std::size_t k = 0; k < 3; ++k) at[k] = glm::dvec2(face.at[k]), least = glm::min(least, at[k]);
        for (glm::dvec2& corner : at) corner = (corner - glm::floor(least)) * double(edge_);
        // Of very large ones a part is enough to show what they lie on.
        forEachRow(at, {{0, 0}, glm::ivec2(16 * edge_)}, [&](int row, int from, int to) {
            std::uint32_t* line = &first_[std::size_t(row % edge_) * std::size_t(edge_)];
            for (int column = from; column < to; ++column) {
                std::uint32_t& owner = line[column % edge_];
                ++laid_;
                if (owner == nobody)
                    owner = id, ++used_;
                else
                    met(owner, std::size_t(row % edge_) * std::size_t(edge_) + std::size_t(column % edge_));
            }
        });
    }
    std::size_t used() const { return used_; }
    bool isBuried() const { return laid_ > mostLayers * first_.size(); }

private:
    int edge_;
    std::vector<std::uint32_t> first_;
    std::size_t used_ = 0, laid_ = 0;
};

} // namespace

Overlap overlapOf(const UvFaces& faces, int edge) {
    std::map<int, std::vector<std::uint32_t>> byMaterial;
    for (std::uint32_t f = 0; f < faces.faces.size(); ++f) byMaterial[faces.faces[f].material].push_back(f);
    std::vector<char> lit(faces.faces.size(), 0);
    std::size_t used = 0, twice = 0;
    for (const auto& [material, list] : byMaterial) {
        Ground ground(edge);
        std::vector<char> met(std::size_t(edge) * std::size_t(edge), 0);
        for (const std::uint32_t f : list) {
            if (std::abs(doubleUvArea(faces.faces[f])) > 2) lit[f] = 1; // more than a whole picture
            if (ground.isBuried()) {
                lit[f] = 1;
                continue;
            }
            ground.lay(f, faces.faces[f],
                       [&](std::uint32_t other, std::size_t point) { lit[f] = lit[other] = met[point] = 1; });
        }
        used += ground.used();
        twice += std::size_t(std::count(met.begin(), met.end(), 1));
    }
    Overlap out;
    out.share = used > 0 ? double(twice) / double(used) : 0;
    for (std::uint32_t f = 0; f < lit.size(); ++f)
        if (lit[f]) out.faces.push_back(f);
    return out;
}

} // namespace zl::uv
