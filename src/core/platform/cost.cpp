#include "core/platform/cost.h"

#include "core/platform/delivered_pictures.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"
#include "core/texture/picture_memory.h"

#include <algorithm>
#include <cmath>

namespace zl::platform {

double meshMemory(const Model& model, std::size_t* copies) {
    double bytes = 0;
    std::vector<char> counted(model.meshes.size(), 0);
    for (const Node& node : model.nodes) {
        if (node.mesh < 0) continue;
        if (counted[std::size_t(node.mesh)]) {
            if (copies) ++*copies;
            continue;
        }
        counted[std::size_t(node.mesh)] = 1;
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        bytes += 32.0 * double(mesh.vertexCount()) + 12.0 * double(mesh.triangleCount());
    }
    return bytes;
}

double uploadEstimate(const Model& model, MeshFile file) {
    double bytes = 0;
    for (const Node& node : model.nodes) {
        if (node.mesh < 0) continue;
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        // Without normals, delivery makes them and splits corners at hard edges: about half as many again on
        // a scan.
        const double corners = double(mesh.vertexCount()) * (mesh.normals.empty() ? 1.5 : 1.0);
        const bool text = file == MeshFile::Obj, placed = !mesh.uvSets.empty();
        bytes += corners * (text     ? placed ? 96 : 74
                            : placed ? 32
                                     : 24) +
                 double(mesh.triangleCount()) * (text ? 42 : 12);
    }
    for (const int image : usedImages(model))
        bytes += double(texture::encodedOf(model.images[std::size_t(image)])->size());
    return bytes;
}

const Cost::Quality& Cost::usual() const {
    const auto found = std::ranges::find(qualities, true, &Quality::usual);
    return found == qualities.end() ? qualities.front() : *found;
}

double Cost::memory(double copies, bool shared, const Quality& quality, const SheetCost& sheet) const {
    const double whole = mesh + quality.pictures;
    return shared ? whole + (copies - 1) * sheet.copyBytes : copies * whole;
}

std::optional<double> Cost::frame(double copies, bool shared, const Quality& quality,
                                  const SheetCost& sheet) const {
    if (!(sheet.trianglesPerMilli > 0)) return std::nullopt;
    const double pixels =
        sheet.pixelsPerMilli > 0 ? (shared ? 1 : copies) * quality.pixels / sheet.pixelsPerMilli : 0;
    return copies * double(triangles) / sheet.trianglesPerMilli + pixels;
}

Cost costOf(const Model& model, const Sheet& sheet) {
    Cost out;
    out.triangles = triangleCount(model);
    out.upload = uploadEstimate(model, sheet.cost.meshFile);
    out.mesh = meshMemory(model);
    auto levels = sheet.cost.qualities;
    if (levels.empty()) levels.push_back({"as delivered", 0, true});
    const auto pictures = deliveredPictures(model, sheet);
    for (const SheetCost::Quality& level : levels) {
        Cost::Quality quality{level.name, level.edge, level.usual};
        for (const DeliveredPicture& picture : pictures) {
            const glm::ivec2 size = texture::shrunkTo(picture.size, level.edge);
            quality.pictures += texture::memoryOf(size, texture::pictureFormat(picture.format).bitsOnCard);
            quality.pixels += double(size.x) * size.y;
        }
        out.qualities.push_back(std::move(quality));
    }
    return out;
}

namespace {

/// The most copies at which something that grows by `each` from `one` stays within `most`.
std::optional<long long> copiesWithin(double most, double one, double each) {
    if (one > most) return 0;
    if (!(each > 0)) return std::nullopt;
    return 1 + (long long)(std::min(std::floor((most - one) / each), 1e15));
}

} // namespace

std::vector<CostLimit> costLimits(const Cost& cost, const SheetCost& sheet) {
    std::vector<CostLimit> out;
    const Cost::Quality& usual = cost.usual();
    if (sheet.memoryMegabytes > 0) {
        const double most = sheet.memoryMegabytes * 1e6, one = cost.memory(1, true, usual, sheet);
        out.push_back(
            {"memory", most, one, copiesWithin(most, one, sheet.copyBytes), copiesWithin(most, one, one)});
    }
    if (sheet.uploadMegabytes > 0) { // each piece is uploaded by itself, once
        const double most = sheet.uploadMegabytes * 1e6;
        const auto fits = cost.upload > most ? std::optional<long long>(0) : std::nullopt;
        out.push_back({"upload", most, cost.upload, fits, fits});
    }
    if (const auto one = cost.frame(1, true, usual, sheet); one && sheet.frameMillis > 0) {
        const double more = *cost.frame(2, true, usual, sheet) - *one;
        out.push_back({"frame", sheet.frameMillis, *one, copiesWithin(sheet.frameMillis, *one, more),
                       copiesWithin(sheet.frameMillis, *one, *one)});
    }
    return out;
}

} // namespace zl::platform
