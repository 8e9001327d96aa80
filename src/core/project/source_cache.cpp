#include "core/project/source_cache.h"

#include "core/base/stamp.h"
#include "core/formats/format.h"
#include "core/project/dependencies.h"

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::project {

LoadedPiece SourceCache::load(const fs::path& file, const Progress& progress) {
    const std::string key = fs::absolute(file).lexically_normal().string();
    std::unique_lock lock(mutex_);
    read_.wait(lock, [&] { return !held_[key].reading; });
    Held& held = held_[key]; // map entries stay in place
    if (held.stamp && stampNow(held.model) == *held.stamp) return {held.model, *held.stamp};
    held.reading = true;
    lock.unlock();
    try {
        LoadedPiece loaded = read(key, progress);
        lock.lock();
        held.model = loaded.model;
        held.stamp = loaded.hash;
        held.reading = false;
        read_.notify_all();
        return loaded;
    } catch (...) {
        if (!lock.owns_lock()) lock.lock();
        held.reading = false;
        held.stamp.reset();
        read_.notify_all();
        throw;
    }
}

LoadedPiece SourceCache::read(const fs::path& file, const Progress& progress) const {
    LoadedPiece out;
    if (documents_->kindOf(file)) {
        const Documents::State now = documents_->now(file);
        out.model = now.document->model(file.parent_path(), progress);
        out.model.files.insert(out.model.files.begin(), file);
        // Of this very state, though it may be edited by now.
        const auto stampOf = [&](const fs::path& of) {
            return of == file ? std::optional(now.stamp) : std::nullopt;
        };
        out.hash = hashText(Stamps(stampOf).of(out.model.files));
    } else {
        out.model = formats::readModel(file, progress);
        out.hash = stampNow(out.model);
    }
    return out;
}

LoadedPiece SourceCache::load(const Project& project, const Piece& piece, const Progress& progress) {
    return load(project, piece, piece.sizes()[0], progress);
}

LoadedPiece SourceCache::load(const Project& project, const Piece& piece, const std::string& size,
                              const Progress& progress) {
    if (piece.sources.empty()) throw Error("has no source", piece.name, "Bring a model file in.");
    const auto sizes = piece.sizes();
    const std::string& wanted = std::ranges::find(sizes, size) != sizes.end() ? size : sizes[0];
    std::vector<Model> models;
    Hash hash = 7;
    const double all = double(piece.sources.size());
    for (std::size_t i = 0; i < piece.sources.size(); ++i) {
        if (piece.sources[i].size != wanted) continue;
        auto loaded = load(wholePath(project, piece.sources[i].path),
                           progress.between(double(i) / all, double(i + 1) / all));
        hash = hashBytes(&loaded.hash, sizeof loaded.hash, hash);
        models.push_back(std::move(loaded.model));
    }
    return {joined(models), hash};
}

LoadedPiece SourceCache::load(const Project& project, const YardstickSource& yardstick,
                              const Progress& progress) {
    auto loaded = load(wholePath(project, yardstick.path), progress);
    SourceFrame frame = loaded.model.frame;
    if (!yardstick.unit.empty()) frame.unit = unitNamed(yardstick.unit), frame.unitAssumed = false;
    if (!yardstick.up.empty()) frame.up = upNamed(yardstick.up), frame.upAssumed = false;
    return {withFrame(std::move(loaded.model), frame),
            hashText(yardstick.unit + "|" + yardstick.up, loaded.hash)};
}

Model joined(const std::vector<Model>& models) {
    Model out = models.at(0);
    for (std::size_t m = 1; m < models.size(); ++m) {
        const Model& from = models[m];
        const int nodes = static_cast<int>(out.nodes.size()), meshes = static_cast<int>(out.meshes.size()),
                  materials = static_cast<int>(out.materials.size()),
                  images = static_cast<int>(out.images.size()), skins = static_cast<int>(out.skins.size());
        const auto shift = [](int& index, int by) { index = index < 0 ? index : index + by; };
        const glm::dmat4 toFirst = glm::inverse(out.placement) * from.placement;
        for (Node node : from.nodes) {
            if (node.parent < 0) node.local = toFirst * node.local;
            shift(node.parent, nodes), shift(node.mesh, meshes), shift(node.skin, skins);
            out.nodes.push_back(std::move(node));
        }
        for (const auto& mesh : from.meshes) {
            auto copy = std::make_shared<Mesh>(*mesh);
            for (MaterialRun& run : copy->runs) shift(run.material, materials);
            out.meshes.push_back(std::move(copy));
        }
        for (Material material : from.materials) {
            for (PictureUse& use : material.pictures) shift(use.image, images);
            out.materials.push_back(std::move(material));
        }
        out.images.insert(out.images.end(), from.images.begin(), from.images.end());
        for (Skin skin : from.skins) {
            for (int& joint : skin.joints) shift(joint, nodes);
            shift(skin.root, nodes);
            out.skins.push_back(std::move(skin));
        }
        for (const auto& clip : from.clips) {
            auto copy = std::make_shared<Clip>(*clip);
            for (Channel& channel : copy->channels) shift(channel.node, nodes);
            out.clips.push_back(std::move(copy));
        }
        out.dropped.insert(out.dropped.end(), from.dropped.begin(), from.dropped.end());
        out.warnings.insert(out.warnings.end(), from.warnings.begin(), from.warnings.end());
        out.files.insert(out.files.end(), from.files.begin(), from.files.end());
    }
    return out;
}

} // namespace zl::project
