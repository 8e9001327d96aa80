#include "core/solids/light_store.h"

#include "core/texture/picture_cache.h"

namespace zl::solids {

namespace {

/// One key for what is kept of two sorts.
constexpr Hash ofPicture = 0x5f0e'11a9'7c3d'2b41ull;

} // namespace

template <class T>
std::shared_ptr<const T> LightStore::find(Hash key) {
    if constexpr (std::is_same_v<T, Image>) key ^= ofPicture;
    const std::lock_guard lock(mutex_);
    const auto found = entries_.find(key);
    if (found == entries_.end()) return nullptr;
    recent_.splice(recent_.begin(), recent_, found->second.at);
    return std::static_pointer_cast<const T>(found->second.what);
}
template std::shared_ptr<const LightStore::Direct> LightStore::find(Hash);
template std::shared_ptr<const Image> LightStore::find(Hash);

void LightStore::put(Hash key, std::shared_ptr<const void> what, std::size_t bytes) {
    const std::lock_guard lock(mutex_);
    if (bytes > most_ || entries_.contains(key)) return;
    recent_.push_front(key);
    entries_[key] = {std::move(what), bytes, recent_.begin()};
    bytes_ += bytes;
    while (bytes_ > most_) {
        bytes_ -= entries_.at(recent_.back()).bytes;
        entries_.erase(recent_.back());
        recent_.pop_back();
    }
}

void LightStore::keep(Hash key, std::shared_ptr<const Direct> light) {
    const std::size_t bytes = light->size() * sizeof(glm::u16vec3);
    put(key, std::move(light), bytes);
}
void LightStore::keep(Hash key, std::shared_ptr<const Image> picture) {
    const std::size_t bytes = picture->pixels ? picture->pixels->rgba.size() : picture->encoded.size();
    put(key ^ ofPicture, std::move(picture), bytes);
}

LightStore& LightStore::shared() {
    static LightStore store(texture::mostPictureCacheBytes());
    return store;
}

} // namespace zl::solids
