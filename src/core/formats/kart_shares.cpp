#include "core/formats/kart_shares.h"

#include "core/motion/channel_keys.h"

#include <algorithm>
#include <cstdint>

namespace zl::formats {

namespace {

/// The finest level of the picture in a chunk, which halving leaves out: its size stands behind its name.
std::size_t finestOf(const KartChunk& chunk) {
    const auto byte = [&](std::size_t at) {
        return at < chunk.bytes.size() ? std::uint8_t(chunk.bytes[at]) : 0u;
    };
    const std::size_t at = 1 + byte(0);
    const std::size_t width = byte(at) << 8 | byte(at + 1), height = byte(at + 2) << 8 | byte(at + 3);
    if (std::max(width, height) <= 4) return 0;
    return (width + 3) / 4 * ((height + 3) / 4) * (byte(at + 4) == 3 ? 16 : 8);
}

/// Bytes of the keys of a clip that lines between others tell.
std::size_t thinnedBy(const Model& model, const std::string& name) {
    std::size_t bytes = 0;
    for (const auto& clip : model.clips) {
        if (clip->name != name) continue;
        for (const Channel& channel : clip->channels) {
            if (channel.target == Channel::Target::Weights || channel.curve != Channel::Curve::Linear)
                continue;
            const auto thin = motion::thinned(channel, motion::KeyTolerance().forTarget(channel.target));
            bytes += (channel.times.size() - thin.times.size()) * (2 + 2 * motion::widthOf(channel));
        }
        break;
    }
    return bytes;
}

} // namespace

std::vector<KartShare> kartShares(const Model& model, const KartOptions& options, const Progress& progress) {
    std::vector<KartShare> out;
    KartShare rest{KartShare::Kind::Other, "the rest", 8, 0, ""};
    for (const KartChunk& chunk : kartChunks(model, options, progress)) {
        KartShare share{KartShare::Kind::Other, chunk.what, chunk.size(), 0, ""};
        if (chunk.tag == "PICT") {
            share.kind = KartShare::Kind::Picture;
            share.saving = finestOf(chunk), share.mend = "at half its edges";
        } else if (chunk.tag == "CLIP") {
            share.kind = KartShare::Kind::Clip;
            share.saving = thinnedBy(model, chunk.what), share.mend = "without keys that others tell";
        } else if (chunk.tag == "MESH") {
            share.kind = KartShare::Kind::Mesh;
            share.saving = chunk.size() / 4, share.mend = "with a quarter fewer triangles";
        } else {
            rest.bytes += chunk.size();
            continue;
        }
        out.push_back(std::move(share));
    }
    out.push_back(std::move(rest));
    std::ranges::stable_sort(out, std::ranges::greater{}, &KartShare::bytes);
    return out;
}

} // namespace zl::formats
