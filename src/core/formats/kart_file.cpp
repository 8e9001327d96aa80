#include "core/formats/kart_file.h"

#include "core/base/error.h"
#include "core/formats/kart_numbers.h"
#include "core/geometry/normals.h"
#include "core/geometry/world.h"
#include "core/motion/channel_keys.h"
#include "core/motion/pose.h"
#include "core/motion/posed.h"
#include "core/texture/colour_blocks.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_cache.h"
#include "core/texture/resized.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <bit>
#include <cmath>
#include <map>

namespace zl::formats {

namespace {

constexpr double ticksASecond = 240;
constexpr std::size_t mostCorners = 65535, mostBones = 255;
constexpr double uvOne = 4096;

class KartWriter {
public:
    KartWriter(const Model& model, const KartOptions& options, const Progress& progress)
        : model_(model), options_(options), progress_(progress) {}

    std::vector<KartChunk> write() {
        if (model_.nodes.size() + 1 > mostBones)
            throw Refused(fmt::format("it has {} nodes, and a kart's file counts to {}", model_.nodes.size(),
                                      mostBones - 1),
                          model_.name, "Leave out bones that nothing hangs on, or join parts.");
        head();
        bones();
        materials();
        mesh();
        clips();
        return std::move(chunks_);
    }

private:
    void add(const char* tag, std::string what, KartNumbers numbers) {
        chunks_.push_back({tag, std::move(what), numbers.take()});
    }

    void head() {
        KartNumbers out;
        out.u16(1).f32(float(1 / options_.metresPerUnit)).name(options_.name).name(options_.credit);
        add("HEAD", "what it is called", std::move(out));
    }

    /// The first bone is where the whole stands; all nodes come behind it in their order.
    void bones() {
        KartNumbers out;
        out.u16(unsigned(model_.nodes.size() + 1));
        const auto put = [&](int above, bool seen, const glm::dmat4& local, const std::string& name) {
            out.i16(above).u8(seen ? 1 : 0);
            for (int c = 0; c < 4; ++c)
                for (int r = 0; r < 3; ++r) out.f32(float(local[c][r]));
            out.name(name);
        };
        put(-1, true, model_.placement, "");
        for (const Node& node : model_.nodes) put(node.parent + 1, node.visible, node.local, node.name);
        add("BONE", "bones", std::move(out));
        for (const Skin& skin : model_.skins) {
            KartNumbers binds;
            binds.u16(unsigned(skin.joints.size()));
            for (std::size_t j = 0; j < skin.joints.size(); ++j) {
                binds.u16(unsigned(skin.joints[j] + 1));
                for (int c = 0; c < 4; ++c)
                    for (int r = 0; r < 3; ++r) binds.f32(skin.inverseBind[j][c][r]);
            }
            add("SKIN", "binds", std::move(binds));
        }
    }

    void materials() {
        std::map<int, int> pictures;
        std::vector<std::pair<std::string, KartNumbers>> blocks;
        KartNumbers out;
        std::vector<int> worn = usedMaterials(model_);
        out.u16(unsigned(worn.size()));
        for (const int index : worn) {
            materials_[index] = int(materials_.size());
            const Material none{.name = "none"};
            const Material& material = index < 0 ? none : model_.materials[std::size_t(index)];
            const int image = material.image(PictureRole::Colour);
            int number = -1;
            if (image >= 0) {
                const auto [found, isNew] = pictures.try_emplace(image, int(pictures.size()));
                number = found->second;
                if (isNew)
                    blocks.emplace_back(model_.images[std::size_t(image)]->name,
                                        picture(model_.images[std::size_t(image)]));
            }
            out.name(material.name).i16(number);
            for (int k = 0; k < 3; ++k)
                out.u8(texture::toSrgbByte(std::clamp(material.baseColour[k], 0.0f, 1.0f)));
            out.u8(unsigned(std::lround(255 * std::clamp(material.baseColour.a, 0.0f, 1.0f))));
            out.u8(unsigned(material.settings.size()));
            for (const auto& [name, value] : material.settings) {
                out.name(name);
                if (const auto* flag = std::get_if<bool>(&value))
                    out.u8(0).u8(*flag ? 1 : 0);
                else if (const auto* real = std::get_if<double>(&value))
                    out.u8(1).f32(float(*real));
                else
                    out.u8(2).name(std::get<std::string>(value));
            }
        }
        add("MATS", "materials", std::move(out));
        for (auto& [name, numbers] : blocks) add("PICT", name, std::move(numbers));
    }

    /// Levels down to one block: BC1, with alpha BC3. Who only weighs them gets as many zeros.
    KartNumbers picture(const std::shared_ptr<const Image>& image) const {
        progress_.checkCancel();
        const bool alpha = image->hasAlpha() && texture::channelFactsOf(image)->channels[3].least < 255;
        std::string blocks;
        unsigned levels = 1;
        if (options_.weighed) {
            int width = image->width, height = image->height;
            for (;; width = std::max(1, width / 2), height = std::max(1, height / 2), ++levels) {
                blocks.append(std::size_t((width + 3) / 4) * std::size_t((height + 3) / 4) * (alpha ? 16 : 8),
                              '\0');
                if (std::max(width, height) <= 4) break;
            }
        } else {
            Pixels level = *texture::pixelsOf(image);
            for (;; level = texture::halved(level, texture::PixelKind::Colours), ++levels) {
                texture::putColourBlocks(blocks, level, alpha);
                if (std::max(level.width, level.height) <= 4) break;
            }
        }
        KartNumbers out;
        out.name(image->name)
            .u16(unsigned(image->width))
            .u16(unsigned(image->height))
            .u8(alpha ? 3 : 1)
            .u8(levels)
            .text(blocks);
        return out;
    }

    void mesh() {
        const auto shown = shownNodes(model_);
        for (const int n : shown) part(n);
    }

    void part(int n) {
        progress_.checkCancel();
        const Node& node = model_.nodes[std::size_t(n)];
        const Mesh& own = *model_.meshes[std::size_t(node.mesh)];
        const Mesh mesh =
            geometry::withPlacedUvs(own.normals.empty() ? geometry::withNormals(own) : own, model_.materials);
        if (mesh.vertexCount() > mostCorners)
            throw Refused(fmt::format("it has {} corners, and a part of a kart's file {} at most",
                                      mesh.vertexCount(), mostCorners),
                          node.name, "Reduce its triangles.");
        const bool skinned = node.skin >= 0 && !mesh.weights.empty();
        glm::vec3 low(0), high(0);
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
            low = v ? glm::min(low, mesh.positions[v]) : mesh.positions[v];
            high = v ? glm::max(high, mesh.positions[v]) : mesh.positions[v];
        }
        const float step = std::max({high.x - low.x, high.y - low.y, high.z - low.z, 1e-6f}) / 65535;
        KartNumbers out;
        out.u16(unsigned(n + 1)).i16(skinned ? node.skin : -1).u16(unsigned(mesh.vertexCount()));
        for (int k = 0; k < 3; ++k) out.f32(low[k]);
        out.f32(step);
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
            for (int k = 0; k < 3; ++k)
                out.u16(unsigned(std::lround((mesh.positions[v][k] - low[k]) / step)));
            for (int k = 0; k < 3; ++k) out.i8(std::lround(mesh.normals[v][k] * 127));
            const glm::vec2 uv = mesh.uvSets.empty() ? glm::vec2(0) : mesh.uvSets[0][v];
            for (int k = 0; k < 2; ++k) out.i16(std::lround(double(uv[k]) * uvOne));
            if (skinned) weights(out, mesh, v);
        }
        out.u16(unsigned(
            std::ranges::count_if(mesh.runs, [](const MaterialRun& run) { return run.triangleCount > 0; })));
        for (const MaterialRun& run : mesh.runs) {
            if (run.triangleCount == 0) continue;
            out.u16(unsigned(materials_.at(run.material))).u32(run.triangleCount);
            for (std::size_t i = 3 * std::size_t(run.firstTriangle);
                 i < 3 * (std::size_t(run.firstTriangle) + run.triangleCount); ++i)
                out.u16(mesh.indices[i]);
        }
        add("MESH", node.name, std::move(out));
    }

    /// Four bones with weights that together are 255: what rounding leaves goes to the heaviest.
    static void weights(KartNumbers& out, const Mesh& mesh, std::size_t v) {
        const glm::vec4 w = mesh.weights[v];
        const float sum = w.x + w.y + w.z + w.w;
        int kept[4], left = 255, heaviest = 0;
        for (int k = 0; k < 4; ++k) {
            kept[k] = sum > 0 ? int(std::lround(255 * w[k] / sum)) : 0;
            left -= kept[k];
            if (w[k] > w[heaviest]) heaviest = k;
        }
        if (sum > 0) kept[heaviest] += left;
        for (int k = 0; k < 4; ++k) out.u8(kept[k] > 0 ? mesh.joints[v][k] : 0u);
        for (int k = 0; k < 4; ++k) out.u8(unsigned(kept[k]));
    }

    void clips() {
        std::map<int, int> numbers;
        KartNumbers slots;
        slots.u16(unsigned(model_.clipSlots.size()));
        std::vector<int> played;
        for (const ClipSlot& slot : model_.clipSlots) {
            const auto [found, isNew] = numbers.try_emplace(slot.clip, int(played.size()));
            if (isNew) played.push_back(slot.clip);
            slots.name(slot.name).u16(unsigned(found->second));
        }
        add("SLOT", "slots", std::move(slots));
        for (const int clip : played)
            add("CLIP", model_.clips[std::size_t(clip)]->name, keysOf(*model_.clips[std::size_t(clip)]));
    }

    KartNumbers keysOf(const Clip& clip) const {
        progress_.checkCancel();
        std::vector<Channel> channels;
        for (const Channel& channel : clip.channels) {
            if (channel.node < 0 || channel.target == Channel::Target::Weights || channel.times.empty())
                continue;
            channels.push_back(motion::straightened(channel));
        }
        KartNumbers out;
        out.name(clip.name).u16(ticks(motion::lengthOf(clip)));
        const glm::dvec3 way = glm::dmat3(model_.placement) * clip.way;
        for (int k = 0; k < 3; ++k) out.f32(float(way[k]));
        out.u16(unsigned(channels.size()));
        for (const Channel& channel : channels) {
            const std::size_t width = motion::widthOf(channel);
            const bool turns = channel.target == Channel::Target::Rotation;
            float most = 1e-9f;
            for (const float v : channel.values) most = std::max(most, std::abs(v));
            const float step = turns ? 1 / 32767.0f : most / 32767;
            out.u8(unsigned(channel.node + 1))
                .u8(channel.target == Channel::Target::Translation ? 0u
                    : turns                                        ? 1u
                                                                   : 2u);
            out.f32(step).u16(unsigned(channel.times.size()));
            for (const float time : channel.times) out.u16(ticks(double(time)));
            for (std::size_t k = 0; k < channel.times.size(); ++k)
                for (std::size_t c = 0; c < width; ++c)
                    out.i16(
                        std::lround(std::clamp(channel.values[k * width + c] / step, -32767.0f, 32767.0f)));
        }
        return out;
    }

    static unsigned ticks(double seconds) {
        return unsigned(std::clamp(std::lround(seconds * ticksASecond), 0l, 65535l));
    }

    const Model& model_;
    const KartOptions& options_;
    const Progress& progress_;
    std::map<int, int> materials_;
    std::vector<KartChunk> chunks_;
};

} // namespace

std::vector<KartChunk> kartChunks(const Model& model, const KartOptions& options, const Progress& progress) {
    return KartWriter(model, options, progress).write();
}

std::size_t kartFileSize(const std::vector<KartChunk>& chunks) {
    std::size_t bytes = 8;
    for (const KartChunk& chunk : chunks) bytes += chunk.size();
    return bytes;
}

std::string kartFile(const std::vector<KartChunk>& chunks) {
    KartNumbers out;
    out.text("KCB1").u32(std::uint32_t(kartFileSize(chunks) - 8));
    for (const KartChunk& chunk : chunks) {
        out.text(chunk.tag).u32(std::uint32_t(chunk.bytes.size())).text(chunk.bytes);
        if (chunk.bytes.size() % 2) out.u8(0);
    }
    return out.take();
}

} // namespace zl::formats
