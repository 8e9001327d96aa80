#pragma once
#include "standins/stand_in.h"
#include "standins/world/picture_levels.h"

#include <array>

namespace zl::standins::island {

/// What the importer makes of pictures; nobody is asked.
struct Quality {
    const char* name;
    int edge;
};
inline constexpr std::array<Quality, 3> qualities{{{"near", 2048}, {"middle", 1024}, {"far", 512}}};
inline constexpr int usualQuality = 2;
inline constexpr double mostMemory = 1e9, copyBytes = 256, mostUpload = 150e6, mostFrame = 33;

struct PieceSurface {
    world::Shape shape; ///< centimetres
    int picture = -1;   ///< into Piece::pictures
    glm::vec3 colour{0.8f};
};

/// What was reckoned before the upload, as the description says it; negative where it says nothing.
struct Reckoned {
    double upload = -1, mesh = -1, frame = -1;
    std::array<double, 3> pictures{-1, -1, -1};
};

struct Piece {
    std::string name, note, credit;
    std::vector<PieceSurface> surfaces;
    std::vector<world::Picture> pictures; ///< as they came
    glm::vec3 low{1e30f}, high{-1e30f};
    std::size_t triangles = 0, uploadBytes = 0;
    Reckoned reckoned;
};

/// Loads a delivered folder and refuses as the island builder does; nothing when it cannot be shown.
std::optional<Piece> loadPiece(const std::filesystem::path& folder, TryReport& report);

/// A picture as the importer shrinks it, with its levels. The mean of what each pixel covers, as it is kept.
world::PictureLevels imported(const world::Picture& picture, int edge);

/// Bytes that a shape's lists hold.
double bytesOf(const world::Shape& shape);

} // namespace zl::standins::island
