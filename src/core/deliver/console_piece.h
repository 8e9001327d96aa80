#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"
#include "core/platform/sheet.h"
#include "core/texture/small_formats.h"

#include <array>
#include <string>
#include <vector>

namespace zl::deliver {

/// A piece in the whole numbers of a small console. A length of `units` is kept as units × 2^shift.
struct ConsolePiece {
    static constexpr int cornersABatch = 16, uvOne = 2048, turnOne = 32767, ticksASecond = 240;

    struct Corner {
        std::array<std::int16_t, 3> place{};
        std::array<std::int16_t, 2> uv{}; ///< from the left and from the top; uvOne is the picture's edge
        std::array<std::int8_t, 3> normal{};
        bool operator==(const Corner&) const = default;
    };
    /// At most cornersABatch corners and the triangles between them, three numbers below 16 each.
    struct Batch {
        std::size_t firstCorner = 0, corners = 0, firstTriangle = 0, triangles = 0;
        int picture = -1;
        std::array<std::uint8_t, 3> colour{255, 255, 255}; ///< sRGB
    };
    struct Segment {
        std::string name;
        int bone = 0;
        std::size_t firstBatch = 0, batches = 0;
    };
    struct Bone {
        std::string name;
        int above = -1; ///< smaller than its own number, or -1
        std::array<std::int16_t, 3> place{};
        std::array<std::int16_t, 4> turn{}; ///< x y z w
    };
    struct Key {
        std::uint16_t ticks = 0;
        std::array<std::int16_t, 4> value{}; ///< a place (the last is 0) or a turn
    };
    struct Track {
        int bone = 0;
        bool turns = false;
        std::size_t firstKey = 0, keys = 0;
    };
    struct Clip {
        std::string name;
        std::uint16_t ticks = 0;
        std::size_t firstTrack = 0, tracks = 0;
        std::array<std::int16_t, 3> way{}; ///< that was taken out of it, as places are
    };
    struct Picture {
        std::string name;
        texture::SmallFormat format = texture::SmallFormat::Colour16;
        bool alpha = false;
        int width = 0, height = 0;
        std::string bytes; ///< pixels, then the palette; words with the high byte first
    };

    int shift = 0;
    std::vector<Corner> corners;
    std::vector<std::uint8_t> triangles; ///< three corner numbers of the batch each
    std::vector<Batch> batches;
    std::vector<Segment> segments;
    std::vector<Bone> bones;
    std::vector<Key> keys;
    std::vector<Track> tracks;
    std::vector<Clip> clips;
    std::vector<Picture> pictures;
};

/// From a model whose parts each hang on one bone. Names are as they are in it. Throws Refused for what the
/// numbers cannot hold: a scaled or sheared bone, a part that bends, something too large for 16 bits, a clip
/// that lasts longer than they count.
ConsolePiece consolePieceOf(const Model& model, const platform::Sheet& sheet, const Progress& progress);

} // namespace zl::deliver
