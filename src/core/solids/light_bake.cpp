#include "core/solids/light_bake.h"

#include "core/base/clock.h"
#include "core/solids/gathered_light.h"
#include "core/solids/samples.h"
#include "core/texture/bled_colours.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_file.h"
#include "core/texture/worn_look.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <bit>
#include <cmath>

namespace zl::solids {

namespace {

/// How much of a face's half sphere a part takes that is not looked at when one asks what a change touches:
/// half a step of 255.
constexpr double unseen = 1.0 / 512;

class Baker {
public:
    Baker(const Model& model, const Shown& shown, const BakeSettings& settings, LightStore& store)
        : model_(model), settings_(settings), store_(store), scene_(model, shown) {}

    /// What is known already goes into `out`; the faces that are not.
    std::vector<std::size_t> look(Baked& out) {
        const std::size_t count = scene_.faces().size();
        out.pictures.resize(count);
        keys();
        std::vector<std::size_t> open;
        for (std::size_t f = 0; f < count; ++f) {
            if (isClear(f)) continue;
            out.pictures[f] = store_.picture(pictureKeys_[f]);
            if (!out.pictures[f]) open.push_back(f);
        }
        out.anew = open.size();
        return open;
    }

    Baked take(const Progress& progress) {
        const std::size_t count = scene_.faces().size();
        Baked out;
        const std::vector<std::size_t> open = look(out);
        if (!open.empty()) {
            lights_.resize(count);
            straight(progress.between(0, 0.5));
            if (settings_.bounces > 0 || settings_.sky != glm::vec3(0)) {
                for (int bounce = 1; bounce < settings_.bounces; ++bounce)
                    gather(everyFace(), settings_.rays / 4, bounce > 1,
                           progress.between(0.5 + 0.15 * (bounce - 1) / settings_.bounces,
                                            0.5 + 0.15 * bounce / settings_.bounces));
                gather(open, settings_.rays, settings_.bounces > 1, progress.between(0.65, 0.9));
            }
            pictures(open, out, progress.between(0.9, 1));
        }
        out.seconds = watch_.seconds();
        return out;
    }

private:
    /// Light goes through it, so that it throws none back.
    bool isClear(std::size_t f) const {
        const LitFace& face = scene_.faces()[f];
        return scene_.shown()
                   .scene.solids.at(scene_.shown().parts[face.part].solid)
                   .lookOf(face.face)
                   .stuff == Stuff::Glass;
    }

    glm::ivec2 sizeOf(const LitFace& face) const {
        if (settings_.perMetre <= 0) return glm::ivec2(settings_.pixels);
        constexpr unsigned least = 16;
        const auto wanted = unsigned(
            std::clamp(std::ceil(std::sqrt(face.area) * settings_.perMetre), 1.0, double(settings_.pixels)));
        return glm::ivec2(int(std::min(unsigned(settings_.pixels), std::max(least, std::bit_ceil(wanted)))));
    }

    /// What a face's picture rests on: its own light and, as often as light is thrown back, that of what it
    /// sees. Worked out like the light itself.
    void keys() {
        const std::size_t count = scene_.faces().size(), parts = scene_.shown().parts.size();
        // Light straight from the lights does not rest on what is thrown back.
        const double straight[] = {double(settings_.pixels), settings_.perMetre, double(settings_.samples),
                                   double(settings_.seed)};
        const double thrown[] = {double(settings_.bounces), settings_.sky.r, settings_.sky.g, settings_.sky.b,
                                 double(settings_.rays)};
        const Hash settings = hashBytes(straight, sizeof straight), back = hashBytes(thrown, sizeof thrown);
        directKeys_.resize(count), pictureKeys_.resize(count);
        std::vector<Hash> ofPart(parts, 0);
        tbb::parallel_for(std::size_t(0), count, [&](std::size_t f) {
            directKeys_[f] = directKey(scene_, scene_.faces()[f], settings);
        });
        for (std::size_t f = 0; f < count; ++f) {
            Hash& key = ofPart[scene_.faces()[f].part];
            key = hashBytes(&directKeys_[f], sizeof(Hash), key);
        }
        pictureKeys_ = directKeys_;
        const int rounds =
            settings_.bounces > 0 || settings_.sky != glm::vec3(0) ? std::max(1, settings_.bounces) : 0;
        for (int round = 0; round < rounds; ++round) {
            std::vector<Hash> next(parts, 0);
            std::vector<Hash> faces(count);
            tbb::parallel_for(std::size_t(0), count, [&](std::size_t f) {
                Hash key = hashBytes(&directKeys_[f], sizeof(Hash), 1);
                for (std::size_t p = 0; p < parts; ++p)
                    if (scene_.shareSeen(scene_.faces()[f], p) > unseen)
                        key = hashBytes(&ofPart[p], sizeof(Hash), key);
                faces[f] = key;
            });
            for (std::size_t f = 0; f < count; ++f) {
                Hash& key = next[scene_.faces()[f].part];
                key = hashBytes(&faces[f], sizeof(Hash), key);
            }
            ofPart = std::move(next), pictureKeys_ = std::move(faces);
        }
        for (Hash& key : pictureKeys_) key = hashBytes(&back, sizeof back, key);
    }

    std::vector<std::size_t> everyFace() const {
        std::vector<std::size_t> out;
        for (std::size_t f = 0; f < lights_.size(); ++f)
            if (lights_[f].width > 0) out.push_back(f);
        return out;
    }

    /// A number of its own for each face, whatever else is in the scene.
    std::uint64_t seedOf(std::size_t f) const {
        const LitFace& face = scene_.faces()[f];
        return mixed(settings_.seed ^ mixed(std::uint64_t(scene_.shown().parts[face.part].solid) << 8 |
                                            std::uint64_t(face.face)));
    }

    template <class F>
    void forEach(const std::vector<std::size_t>& faces, const Progress& progress, const char* what, F work) {
        std::atomic<std::size_t> done{0};
        tbb::parallel_for(std::size_t(0), faces.size(), [&](std::size_t i) {
            progress.checkCancel();
            work(faces[i]);
            const std::size_t now = ++done;
            progress.report(double(now) / double(faces.size()),
                            fmt::format("{}: face {} of {}", what, now, faces.size()));
        });
    }

    void straight(const Progress& progress) {
        std::vector<std::size_t> all;
        for (std::size_t f = 0; f < lights_.size(); ++f)
            if (!isClear(f)) all.push_back(f);
        forEach(all, progress, "light and shadow", [&](std::size_t f) {
            const LitFace& face = scene_.faces()[f];
            const glm::ivec2 size = sizeOf(face);
            const FaceTexels texels = texelsOf(scene_, face, size.x, size.y);
            FaceLight light = tilesOf(scene_, face, texels);
            light.direct = store_.direct(directKeys_[f]);
            if (!light.direct) {
                const auto falls =
                    directLight(scene_, face, texels, settings_.samples, seedOf(f), progress.silent());
                LightStore::Direct packed(falls.size());
                std::ranges::transform(falls, packed.begin(), LightStore::packed);
                light.direct = std::make_shared<const LightStore::Direct>(std::move(packed));
                store_.keep(directKeys_[f], light.direct);
            }
            lights_[f] = std::move(light);
        });
    }

    /// All at once: what is thrown back is what was there before.
    void gather(const std::vector<std::size_t>& faces, int rays, bool again, const Progress& progress) {
        const Gatherer gatherer(scene_, lights_, settings_);
        std::vector<std::vector<glm::vec3>> found(faces.size());
        std::vector<std::size_t> places(faces.size());
        for (std::size_t i = 0; i < faces.size(); ++i) places[i] = i;
        forEach(places, progress, "light thrown back", [&](std::size_t i) {
            const FaceLight& light = lights_[faces[i]];
            found[i].resize(light.tiles.size());
            tbb::parallel_for(std::size_t(0), light.tiles.size(), [&](std::size_t t) {
                const FaceLight::Tile& tile = light.tiles[t];
                if (!tile.valid || progress.isCancelled()) return;
                found[i][t] = gatherer.on(tile.at, tile.normal, rays, mixed(seedOf(faces[i]) + t + 1), again);
            });
        });
        for (std::size_t i = 0; i < faces.size(); ++i) {
            FaceLight& light = lights_[faces[i]];
            const auto smooth = smoothed(light, found[i]);
            for (std::size_t t = 0; t < smooth.size(); ++t) light.tiles[t].light = smooth[t];
        }
    }

    void pictures(const std::vector<std::size_t>& open, Baked& out, const Progress& progress) {
        const Gatherer gatherer(scene_, lights_, settings_);
        forEach(open, progress, "pictures", [&](std::size_t f) {
            out.pictures[f] = pictureOf(f, gatherer, progress);
            store_.keep(pictureKeys_[f], out.pictures[f]);
        });
    }

    std::shared_ptr<const Image> pictureOf(std::size_t f, const Gatherer& gatherer,
                                           const Progress& progress) {
        const LitFace& face = scene_.faces()[f];
        const Part& part = scene_.shown().parts[face.part];
        const FaceLight& light = lights_[f];
        const FaceTexels texels = texelsOf(scene_, face, light.width, light.height);
        const int material = part.mesh->runs[face.run].material;
        texture::WornLook look(material >= 0 ? model_.materials[std::size_t(material)] : Material(), model_);
        look.decode(glm::dvec2(light.width, light.height));
        const PictureUse* leading = look.leading();
        const float glow = scene_.shown().scene.solids.at(part.solid).lookOf(face.face).glow;
        const bool gathers = settings_.bounces > 0 || settings_.sky != glm::vec3(0);
        Pixels pixels{light.width, light.height, {}};
        pixels.rgba.assign(4 * texels.at.size(), 0);
        bool any = false, all = true;
        for (int y = 0; y < light.height; ++y) {
            progress.checkCancel();
            for (int x = 0; x < light.width; ++x) {
                const std::size_t i = texels.index(x, y);
                all &= bool(texels.covered[i]);
                if (!texels.covered[i]) continue;
                any = true;
                glm::vec3 falls = LightStore::unpacked((*light.direct)[i]);
                if (gathers) falls += gatherer.onPixel(f, texels, x, y, mixed(seedOf(f) ^ mixed(i)));
                const glm::vec2 uv =
                    (glm::vec2(x, y) + 0.5f) / glm::vec2(float(light.width), float(light.height));
                const glm::vec3 own = glm::vec3(look.colour(leading ? leading->placement.of(uv) : uv));
                const glm::vec3 seen = own * (falls + glow);
                for (int k = 0; k < 3; ++k)
                    pixels.rgba[4 * i + std::size_t(k)] = texture::toSrgbByte(seen[k]);
                pixels.rgba[4 * i + 3] = 255;
            }
        }
        if (any && !all) texture::bleedColours(pixels);
        for (std::size_t i = 3; i < pixels.rgba.size(); i += 4) pixels.rgba[i] = 255;
        return texture::pictureFromPixels(fmt::format("{}-{}.png", part.solid, face.face), std::move(pixels),
                                          false);
    }

    const Model& model_;
    const BakeSettings& settings_;
    LightStore& store_;
    LitScene scene_;
    Stopwatch watch_;
    std::vector<Hash> directKeys_, pictureKeys_;
    std::vector<FaceLight> lights_;
};

} // namespace

Baked bakeLight(const Model& model, const Shown& shown, const BakeSettings& settings, LightStore& store,
                const Progress& progress) {
    return Baker(model, shown, settings, store).take(progress);
}

std::size_t facesToBake(const Model& model, const Shown& shown, const BakeSettings& settings,
                        LightStore& store) {
    Baked known;
    return Baker(model, shown, settings, store).look(known).size();
}

Model litModel(const Model& model, const Shown& shown, const Baked& baked) {
    Model out = model;
    auto lit = std::make_shared<Shown>(shown);
    lit->lit = true;
    const std::vector<int> nodes = nodesOf(model);
    std::size_t f = 0;
    for (std::size_t p = 0; p < lit->parts.size(); ++p) {
        Part& part = lit->parts[p];
        auto mesh = std::make_shared<Mesh>(*part.mesh);
        for (MaterialRun& run : mesh->runs) {
            const auto& picture = baked.pictures[f++];
            if (!picture) continue;
            run.material = int(out.materials.size());
            const std::string name = picture->name.substr(0, picture->name.rfind('.'));
            out.materials.push_back(litMaterial("lit " + name, int(out.images.size())));
            out.images.push_back(picture);
        }
        part.mesh = mesh;
        out.meshes[std::size_t(out.nodes[std::size_t(nodes[p])].mesh)] = part.mesh;
    }
    out.solids = std::move(lit);
    return out;
}

} // namespace zl::solids
