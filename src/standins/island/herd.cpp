#include "standins/island/herd.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::island {

void Herd::hold(int copies, bool shared, int quality) {
    if (quality != quality_ || shared != shared_) items_.clear(), smaller_.clear(), held_ = 0;
    quality_ = quality, shared_ = shared;
    if (smaller_.empty()) addPiece();
    const double one = meshBytes_ + pictureBytes_;
    const double more = shared ? copyBytes : one;
    const int fits = one > mostMemory ? 0 : 1 + int(std::min(1e6, (mostMemory - one) / std::max(more, 1.0)));
    held_ = std::min(copies, fits);
    const auto pieces = std::size_t(shared ? 1 : std::max(1, held_));
    while (smaller_.size() < pieces) addPiece();
    smaller_.resize(pieces);
    items_.resize(pieces * surfaces());
}

void Herd::addPiece() {
    std::vector<world::PictureLevels> levels;
    for (const world::Picture& picture : piece_.pictures)
        levels.push_back(imported(picture, qualities[std::size_t(quality_)].edge));
    meshBytes_ = pictureBytes_ = 0;
    for (const auto& each : levels) pictureBytes_ += double(world::bytesOf(each));
    for (const PieceSurface& surface : piece_.surfaces) {
        world::Item item{piece_.name, surface.shape, {}, surface.colour, 0.1f};
        meshBytes_ += bytesOf(surface.shape);
        if (surface.picture >= 0) item.picture = levels[std::size_t(surface.picture)].pictures[0];
        items_.push_back(std::move(item));
    }
    for (auto& each : levels) each.pictures.erase(each.pictures.begin()); // an item holds it
    smaller_.push_back(std::move(levels));
}

double Herd::bytes() const {
    return double(smaller_.size()) * (meshBytes_ + pictureBytes_) +
           (shared_ ? std::max(0, held_ - 1) * copyBytes : 0);
}

std::vector<world::Drawn> Herd::drawn() const {
    std::vector<world::Drawn> out;
    const int wide = std::max(1, int(std::ceil(std::sqrt(double(held_)))));
    const glm::vec3 size = piece_.high - piece_.low;
    const float gap = 0.25f * std::max(size.x, size.z);
    for (int k = 0; k < held_; ++k) {
        const int column = k % wide, row = k / wide;
        const glm::vec3 at(float(column) * (size.x + gap), 0, -float(row) * (size.z + gap));
        for (std::size_t s = 0; s < surfaces(); ++s)
            out.push_back(
                {int(shared_ ? s : std::size_t(k) * surfaces() + s), glm::translate(glm::mat4(1.0f), at)});
    }
    return out;
}

} // namespace zl::standins::island
