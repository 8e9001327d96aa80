#pragma once
#include "standins/island/piece.h"
#include "standins/world/arena.h"

namespace zl::standins::island {

/// Copies of a piece as the island holds them: one that is shown again, or each a piece of its own, with the
/// pictures in one quality. What is counted is really held.
class Herd {
public:
    Herd(const Piece& piece, std::vector<world::Item>& items) : piece_(piece), items_(items) {}

    /// As many of `copies` as the island's memory takes. Pieces of their own are copied whole.
    void hold(int copies, bool shared, int quality);

    int held() const { return held_; } ///< copies
    double bytes() const;
    /// Of the pictures of one piece, with all levels.
    double pictureBytes() const { return pictureBytes_; }
    double meshBytes() const { return meshBytes_; }
    std::size_t surfaces() const { return piece_.surfaces.size(); }
    /// Where each copy's items are, in rows with room around each.
    std::vector<world::Drawn> drawn() const;

private:
    void addPiece();

    const Piece& piece_;
    int held_ = 0, quality_ = -1;
    bool shared_ = true;
    double meshBytes_ = 0, pictureBytes_ = 0;
    std::vector<world::Item>& items_; ///< those of the first piece, of the second …
    std::vector<std::vector<world::PictureLevels>>
        smaller_; ///< of each held piece: levels below the whole ones
};

} // namespace zl::standins::island
