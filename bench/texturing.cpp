#include "measure.h"

#include "core/texture/pack_channels.h"
#include "core/steps/step.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"
#include "core/uv/islands.h"
#include "core/uv/overlap.h"

#include "demo_data.h"

#include <meshoptimizer.h>
#include <squish.h>
#include <stb/stb_image_resize.h>

#include <cmath>

using namespace zl;
using texture::PixelKind;

namespace bench {

namespace {

/// Waves of several lengths: neither noise, which no block can hold, nor flat.
Pixels waves(int edge) {
    Pixels out{edge, edge, std::vector<std::uint8_t>(std::size_t(4) * std::size_t(edge) * std::size_t(edge))};
    for (int y = 0; y < edge; ++y)
        for (int x = 0; x < edge; ++x) {
            std::uint8_t* p =
                &out.rgba[std::size_t(4) * (std::size_t(y) * std::size_t(edge) + std::size_t(x))];
            p[0] = std::uint8_t((x * 7 + y * 3) & 255), p[1] = std::uint8_t((x * x + y) >> 6 & 255);
            p[2] = std::uint8_t((x ^ y) & 255), p[3] = 255;
        }
    return out;
}

/// Squares side by side, each with a material and a picture of its own.
Model quilt(int squares, int edge) {
    Model model;
    for (int i = 0; i < squares; ++i) {
        Mesh mesh;
        const auto x = float(2 * i);
        mesh.positions = {{x, 0, 0}, {x + 1, 0, 0}, {x + 1, 1, 0}, {x, 1, 0}};
        mesh.uvSets = {{{0, 1}, {1, 1}, {1, 0}, {0, 0}}};
        mesh.indices = {0, 1, 2, 0, 2, 3};
        mesh.runs = {{0, 2, i}};
        Pixels pixels = waves(edge);
        pixels.rgba[0] = std::uint8_t(i); // none like another
        model.images.push_back(
            texture::pictureFromPixels(fmt::format("{}.png", i), std::move(pixels), false));
        model.materials.push_back({.name = fmt::format("cloth {}", i)});
        model.materials.back().wear(PictureRole::Colour, {.image = i});
        model.nodes.push_back({mesh.name, -1, glm::dmat4(1.0), i});
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    }
    return model;
}

/// How the bell lies on its picture, against joining its corners alone.
void layoutRow() {
    Model model;
    model.materials = {{.name = "bronze"}};
    model.nodes.push_back({"bell", -1, glm::dmat4(1.0), 0});
    model.meshes.push_back(std::make_shared<const Mesh>(demo::tideBell(1)));
    const Mesh& mesh = *model.meshes[0];
    std::vector<unsigned> remap(mesh.vertexCount());
    const double peer = middleSeconds([&] {
        benchmark::DoNotOptimize(meshopt_generateVertexRemap(remap.data(), mesh.indices.data(),
                                                             mesh.indices.size(), mesh.positions.data(),
                                                             mesh.vertexCount(), sizeof(glm::vec3)));
    });
    timeRow("islands and overlaps of 0.8 M triangles' UVs", middleSeconds([&] {
                const uv::UvFaces faces = uv::uvFaces(model);
                benchmark::DoNotOptimize(uv::islandsOf(model, faces));
                benchmark::DoNotOptimize(uv::overlapOf(faces));
            }),
            "meshoptimizer's weld alone", peer, "1 s");
}

/// One picture of twelve, against shrinking as many pixels.
void atlasRow(double peer) {
    const Model model = quilt(12, 1024);
    const auto step = steps::makeStep("one-material", {{"edge", 4096}});
    timeRow("atlas of 12 pictures of 1024²", middleSeconds([&] {
                const Progress progress;
                steps::StepContext context{progress};
                benchmark::DoNotOptimize(step->apply(model, context));
            }),
            "stb_image_resize, 8192² → 2048²", peer, "0.5 s");
}

} // namespace

void texturingRows() {
    const Pixels large = waves(8192), middle = waves(4096);
    std::vector<std::uint8_t> shrunk(std::size_t(4) * 2048 * 2048);
    const double peer = middleSeconds([&] {
        stbir_resize_uint8_generic(large.rgba.data(), 8192, 8192, 0, shrunk.data(), 2048, 2048, 0, 4, 3, 0,
                                   STBIR_EDGE_CLAMP, STBIR_FILTER_BOX, STBIR_COLORSPACE_SRGB, nullptr);
        benchmark::DoNotOptimize(shrunk.data());
    });
    timeRow("picture of 8192² → 2048², as light", middleSeconds([&] {
                benchmark::DoNotOptimize(texture::resized(large, 2048, 2048, PixelKind::Colours));
            }),
            "stb_image_resize, box", peer, "0.8 s");
    const texture::PackedChannel red{&middle, PictureChannel::Red},
        turned{&middle, PictureChannel::Green, true};
    timeRow("three pictures of 4096² packed of four channels each", middleSeconds([&] {
                for (int k = 0; k < 3; ++k)
                    benchmark::DoNotOptimize(texture::packedChannels({red, turned, red, turned}));
            }),
            "stb_image_resize, 8192² → 2048²", peer, "1.5 s");
    atlasRow(peer);
    layoutRow();
    const Pixels small = waves(1024);
    for (const bool alpha : {false, true}) {
        const int kind = alpha ? squish::kDxt5 : squish::kDxt1;
        std::string blocks(std::size_t(squish::GetStorageRequirements(1024, 1024, kind)), '\0');
        timeRow(alpha ? "1024² in BC3, all levels" : "1024² in BC1, all levels", middleSeconds([&] {
                    benchmark::DoNotOptimize(alpha ? texture::writeDdsBc3(small, true)
                                                   : texture::writeDdsBc1(small, false));
                }),
                "squish's best, one level", middleSeconds([&] {
                    squish::CompressImage(small.rgba.data(), 1024, 1024, blocks.data(),
                                          kind | squish::kColourIterativeClusterFit);
                }),
                "within 0.6×");
    }
}

} // namespace bench
