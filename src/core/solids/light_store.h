#pragma once
#include "core/base/hash.h"
#include "core/model/image.h"

#include <glm/glm.hpp>
#include <glm/gtc/packing.hpp>

#include <list>
#include <memory>
#include <mutex>
#include <unordered_map>
#include <vector>

namespace zl::solids {

/// Light on faces by what it was worked out from, so that a change works out anew only what it touches. May
/// be shared by threads; keeps the most recently used, up to a number of bytes.
class LightStore {
public:
    explicit LightStore(std::size_t mostBytes) : most_(mostBytes) {}

    /// Light straight from the lights, a pixel each, in half precision.
    using Direct = std::vector<glm::u16vec3>;
    static glm::u16vec3 packed(const glm::vec3& light) {
        return {glm::packHalf1x16(light.r), glm::packHalf1x16(light.g), glm::packHalf1x16(light.b)};
    }
    static glm::vec3 unpacked(const glm::u16vec3& light) {
        return {glm::unpackHalf1x16(light.r), glm::unpackHalf1x16(light.g), glm::unpackHalf1x16(light.b)};
    }
    std::shared_ptr<const Direct> direct(Hash key) { return find<Direct>(key); }
    void keep(Hash key, std::shared_ptr<const Direct> light);
    std::shared_ptr<const Image> picture(Hash key) { return find<Image>(key); }
    void keep(Hash key, std::shared_ptr<const Image> picture);

    /// The program's own: a sixteenth of the machine's memory, at most 1 GB.
    static LightStore& shared();

private:
    template <class T>
    std::shared_ptr<const T> find(Hash key);
    void put(Hash key, std::shared_ptr<const void> what, std::size_t bytes);

    struct Entry {
        std::shared_ptr<const void> what;
        std::size_t bytes = 0;
        std::list<Hash>::iterator at;
    };
    std::mutex mutex_;
    std::size_t most_, bytes_ = 0;
    std::list<Hash> recent_; ///< most recent first
    std::unordered_map<Hash, Entry> entries_;
};

} // namespace zl::solids
