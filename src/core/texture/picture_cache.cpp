#include "core/texture/picture_cache.h"

#include "core/texture/picture_file.h"

#include <algorithm>
#include <list>
#include <mutex>
#include <unordered_map>
#include <unistd.h>

namespace zl::texture {

namespace {

/// Values that were made of pictures, the most recently used ones, as many as fit. A picture is told by its
/// address and forgotten when it is gone, for another may come to lie there.
template <class Value>
class Cache {
public:
    template <class Make, class Size>
    std::shared_ptr<const Value> get(const std::shared_ptr<const Image>& image, const Make& make,
                                     const Size& sizeOf) {
        {
            const std::scoped_lock lock(mutex_);
            const auto found = held_.find(image.get());
            if (found != held_.end() && found->second.of.lock() == image) {
                recent_.splice(recent_.begin(), recent_, found->second.place);
                return found->second.value;
            }
        }
        auto value = std::make_shared<const Value>(make(*image)); // beside the lock: others need not wait
        const std::scoped_lock lock(mutex_);
        drop(image.get());
        const std::size_t size = sizeOf(*value);
        if (size > most() / 2) return value;
        recent_.push_front(image.get());
        held_[image.get()] = {image, value, size, recent_.begin()};
        bytes_ += size;
        while (bytes_ > most() && recent_.size() > 1) drop(recent_.back());
        return value;
    }
    std::size_t bytes() const {
        const std::scoped_lock lock(mutex_);
        return bytes_;
    }

private:
    static std::size_t most() { return mostPictureCacheBytes() / 2; } ///< there are two that hold much
    void drop(const Image* image) {
        const auto found = held_.find(image);
        if (found == held_.end()) return;
        bytes_ -= found->second.size;
        recent_.erase(found->second.place);
        held_.erase(found);
    }
    struct Held {
        std::weak_ptr<const Image> of;
        std::shared_ptr<const Value> value;
        std::size_t size = 0;
        std::list<const Image*>::iterator place;
    };
    mutable std::mutex mutex_;
    std::size_t bytes_ = 0;
    std::list<const Image*> recent_;
    std::unordered_map<const Image*, Held> held_;
};

Cache<Pixels>& decodedPictures() {
    static Cache<Pixels> cache;
    return cache;
}
Cache<std::string>& encodedPictures() {
    static Cache<std::string> cache;
    return cache;
}

Cache<ChannelFacts>& knownFacts() {
    static Cache<ChannelFacts> cache;
    return cache;
}

} // namespace

std::shared_ptr<const ChannelFacts> channelFactsOf(const std::shared_ptr<const Image>& image) {
    return knownFacts().get(
        image, [&](const Image&) { return channelFacts(*pixelsOf(image)); },
        [](const ChannelFacts& facts) { return sizeof facts; });
}

std::shared_ptr<const Pixels> pixelsOf(const std::shared_ptr<const Image>& image) {
    if (image->pixels) return image->pixels;
    return decodedPictures().get(
        image, [](const Image& of) { return decode(of); },
        [](const Pixels& pixels) { return pixels.rgba.size(); });
}

std::shared_ptr<const std::string> encodedOf(const std::shared_ptr<const Image>& image) {
    if (!image->pixels) return {image, &image->encoded};
    return encodedPictures().get(
        image, [](const Image& of) { return encodePng(*of.pixels, of.channels == 4); },
        [](const std::string& bytes) { return bytes.size(); });
}

std::size_t pictureCacheBytes() {
    return decodedPictures().bytes() + encodedPictures().bytes();
}

std::size_t mostPictureCacheBytes() {
    const auto pages = static_cast<std::size_t>(std::max(1L, ::sysconf(_SC_PHYS_PAGES)));
    const auto page = static_cast<std::size_t>(std::max(1L, ::sysconf(_SC_PAGESIZE)));
    return std::min(std::size_t(1) << 30, pages * page / 16);
}

} // namespace zl::texture
