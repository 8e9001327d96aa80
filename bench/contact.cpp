#include "measure.h"

#include "core/contact/convex_hull.h"
#include "core/contact/convex_pieces.h"
#include "core/contact/pieces_fit.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "peers/vhacd_peer.h"

using namespace zl;

namespace bench {

namespace {

constexpr int pieces = 10, corners = 64;

std::vector<Mesh> byTheLibrary(const Mesh& mesh, std::uint32_t most) {
    std::vector<Mesh> out;
    for (const auto& points : peers::vhacdPieces(mesh, {.pieces = most, .corners = corners}))
        if (auto hull = contact::convexHull(points, corners)) out.push_back(std::move(*hull));
    return out;
}

double wrong(const contact::PiecesFit& fit) {
    return fit.volume > 0 ? (fit.filled + fit.missing) / fit.volume : 0;
}

} // namespace

void contactRows(const std::filesystem::path& stl, const std::filesystem::path& shapes) {
    std::vector<std::filesystem::path> files{stl};
    if (std::filesystem::is_directory(shapes))
        for (const auto& entry : std::filesystem::directory_iterator(shapes))
            if (entry.path().extension() == ".obj" && entry.file_size() < 3'000'000) files.push_back(entry);
    std::sort(files.begin() + 1, files.end());
    fmt::print(
        "| convex pieces ({} of {} corners) | wrong volume, ours | V-HACD's | time, ours | V-HACD's | ratio "
        "|\n|---|---|---|---|---|---|\n",
        pieces, corners);
    for (const auto& file : files) {
        const Mesh mesh = geometry::flattened(formats::readModel(file));
        const Stopwatch ourWatch;
        const auto ours = contact::convexPieces(mesh, {.pieces = pieces, .corners = corners});
        const double ourTime = ourWatch.seconds();
        const Stopwatch theirWatch;
        const auto theirs = byTheLibrary(mesh, pieces);
        const double theirTime = theirWatch.seconds();
        const auto our = contact::fitOf(mesh, ours), their = contact::fitOf(mesh, theirs);
        // Where ours makes do with fewer, the library is also asked for no more than that.
        const std::string asFew =
            ours.size() < theirs.size()
                ? fmt::format(" ({:.1f} % with {})",
                              100 *
                                  wrong(contact::fitOf(mesh, byTheLibrary(mesh, std::uint32_t(ours.size())))),
                              ours.size())
                : "";
        fmt::print("| {} ({}) | {:.1f} %{} | {:.1f} %{} | {:.2f} s | {:.2f} s | {:.2f}× |\n",
                   file.stem().string(), mesh.triangleCount(), 100 * wrong(our),
                   our.unknown > 0.02 ? fmt::format(" (open on {:.0f} %)", 100 * our.unknown) : "",
                   100 * wrong(their), asFew, ourTime, theirTime, ourTime / theirTime);
        std::fflush(stdout);
    }
}

} // namespace bench
