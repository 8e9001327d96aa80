// COLLADA, FBX, X3D, 3MF, OFF and AMF through Assimp; only this file and assimp_scene.cpp know of it.
// Assimp turns COLLADA into metres and Y up by itself, which is taken back so that the file's own numbers and
// what it says of them are kept apart; for FBX the declared unit is in the metadata.
#include "core/formats/assimp_scene.h"
#include "core/formats/declared_frame.h"
#include "core/formats/format.h"
#include "core/formats/text.h"

#include "core/base/child_process.h"
#include "core/base/deep_stack.h"
#include "core/base/error.h"
#include "core/model/model_bytes.h"

#include <assimp/IOSystem.hpp>
#include <assimp/Importer.hpp>
#include <assimp/MemoryIOWrapper.h>
#include <assimp/ProgressHandler.hpp>
#include <assimp/config.h>
#include <assimp/postprocess.h>
#include <assimp/scene.h>

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>
#include <list>

namespace zl::formats {

namespace {

class ProgressBridge : public Assimp::ProgressHandler {
public:
    explicit ProgressBridge(const Progress& progress) : progress_(progress) {}
    bool Update(float fraction) override {
        if (progress_.isCancelled()) return false;
        progress_.report(0.9 * std::clamp(fraction, 0.0f, 1.0f), "reading");
        return true;
    }

private:
    const Progress& progress_;
};

/// What the format or its metadata says about unit and up; the rest is assumed.
SourceFrame frameOf(const aiScene& scene, std::string_view bytes, const std::string& extension) {
    if (extension != "fbx") return declaredFrame(bytes, extension);
    SourceFrame frame;
    if (scene.mMetaData) {
        double centimetres = 1;
        float single = 1;
        bool has = scene.mMetaData->Get("UnitScaleFactor", centimetres);
        if (!has && scene.mMetaData->Get("UnitScaleFactor", single)) centimetres = single, has = true;
        if (has && centimetres > 0 && std::isfinite(centimetres)) {
            frame.unit = unitOfMetres(centimetres / 100);
            frame.unitAssumed = false;
        }
        int up = 1;
        if (scene.mMetaData->Get("UpAxis", up)) {
            frame.up = up == 2 ? Up::Z : Up::Y;
            frame.upAssumed = false;
        }
    }
    return frame;
}

/// The library puts the first clip's name before those of all clips of a COLLADA file ("walk_walk",
/// "walk_idle").
void dropClipPrefix(Model& model) {
    if (model.clips.empty()) return;
    const std::string& first = model.clips[0]->name;
    const std::string name = first.substr(0, first.size() / 2), prefix = name + "_";
    const auto prefixed = [&](const auto& clip) { return clip->name.starts_with(prefix); };
    if (name.empty() || first != prefix + name || !std::ranges::all_of(model.clips, prefixed)) return;
    for (auto& clip : model.clips) {
        auto renamed = std::make_shared<Clip>(*clip);
        renamed->name.erase(0, prefix.size());
        clip = std::move(renamed);
    }
}

/// The library puts a node of its own above a file's; it goes when it does nothing.
void dropRoot(Model& model) {
    const Node& root = model.nodes[0];
    const glm::dmat4 rest = root.local - glm::dmat4(1.0);
    double largest = 0;
    for (int i = 0; i < 16; ++i) largest = std::max(largest, std::abs(rest[i / 4][i % 4]));
    bool used = root.mesh >= 0 || model.nodes.size() < 2 || largest > 1e-6;
    for (const Skin& skin : model.skins) used |= std::ranges::find(skin.joints, 0) != skin.joints.end();
    for (const auto& clip : model.clips)
        used |= std::ranges::any_of(clip->channels, [](const Channel& channel) { return channel.node == 0; });
    if (used) return;
    model.nodes.erase(model.nodes.begin());
    for (Node& node : model.nodes) node.parent = std::max(node.parent - 1, -1);
    for (Skin& skin : model.skins) // the library knows no root of a skin
        for (int& joint : skin.joints) --joint;
    for (auto& clip : model.clips) {
        auto moved = std::make_shared<Clip>(*clip);
        for (Channel& channel : moved->channels) --channel.node;
        clip = std::move(moved);
    }
}

/// X3D puts each picture's address in quotation marks, within the attribute's own; the library fails on a
/// single one written so, and reads it without.
std::string withBareUrls(std::string_view text) {
    constexpr std::pair<std::string_view, std::string_view> quotings[] = {{"url=\"&quot;", "&quot;\""},
                                                                          {"url='\"", "\"'"}};
    std::string out;
    out.reserve(text.size());
    std::size_t done = 0;
    for (std::size_t at = 0; (at = text.find("url=", at)) != std::string::npos; at += 4)
        for (const auto& [open, close] : quotings) {
            if (text.compare(at, open.size(), open) != 0) continue;
            constexpr std::size_t longest = 4096; // of an address; no search goes through the whole file
            const std::size_t start = at + open.size();
            const std::string_view ahead = text.substr(start, longest);
            const std::size_t length = ahead.find(close);
            if (length == std::string::npos) continue;
            const std::string_view address = ahead.substr(0, length);
            if (address.find_first_of("\"<>") != std::string_view::npos ||
                address.find("&quot;") != std::string_view::npos)
                continue;
            out.append(text, done, at - done).append("url=\"").append(address).append("\"");
            done = start + length + close.size();
        }
    return out.append(text, done);
}

/// The library's way to files: the model's text, and what lies beside it.
class SourceIo final : public Assimp::IOSystem {
public:
    SourceIo(files::SourceFile& source, std::string name, std::string_view text)
        : source_(source), name_(std::move(name)), text_(text) {}

    bool Exists(const char* name) const override { return name == name_ || source_.beside(name); }
    char getOsSeparator() const override { return '/'; }
    Assimp::IOStream* Open(const char* name, const char*) override {
        if (name == name_) return stream(text_);
        const auto file = source_.beside(name);
        return file ? stream(held_.emplace_back(source_.bytes(*file)).text()) : nullptr;
    }
    void Close(Assimp::IOStream* stream) override { delete stream; }

private:
    static Assimp::IOStream* stream(std::string_view text) {
        return new Assimp::MemoryIOStream(reinterpret_cast<const std::uint8_t*>(text.data()), text.size());
    }

    files::SourceFile& source_;
    std::string name_;
    std::string_view text_;
    std::list<FileBytes> held_; ///< what its streams read from
};

Model readHere(files::SourceFile& source, const Progress& progress) {
    const FileBytes file = source.bytes();
    const std::string extension = source.extension(), name = source.stem() + "." + extension;
    std::string storage; // of a file in UTF-16, which the library does not take
    std::string_view text = textOf(file, storage);
    if (extension == "x3d") text = storage = withBareUrls(text);
    Assimp::Importer importer;
    importer.SetProgressHandler(new ProgressBridge(progress)); // the importer deletes it
    importer.SetPropertyInteger(AI_CONFIG_PP_SBP_REMOVE, aiPrimitiveType_POINT | aiPrimitiveType_LINE);
    importer.SetPropertyBool(AI_CONFIG_IMPORT_COLLADA_IGNORE_UP_DIRECTION, true);
    importer.SetPropertyBool(AI_CONFIG_IMPORT_COLLADA_USE_COLLADA_NAMES,
                             true); // not the ids, which nobody sees
    importer.SetPropertyBool(AI_CONFIG_IMPORT_REMOVE_EMPTY_BONES,
                             false); // they belong to the rig all the same
    importer.SetPropertyBool(AI_CONFIG_IMPORT_NO_SKELETON_MESHES, true); // made up where a file has no mesh
    const aiScene* scene = nullptr;
    std::string problem;
    try {
        const unsigned flags = aiProcess_Triangulate | aiProcess_JoinIdenticalVertices |
                               aiProcess_SortByPType | aiProcess_LimitBoneWeights |
                               aiProcess_ValidateDataStructure;
        importer.SetIOHandler(new SourceIo(source, name, text)); // the importer deletes it
        scene = importer.ReadFile(name, flags);
        problem = importer.GetErrorString();
    } catch (const Cancelled&) {
        throw;
    } catch (const std::bad_alloc&) {
        throw;
    } catch (const std::exception& error) {
        problem = error.what();
    }
    progress.checkCancel();
    if (problem.find("bad_alloc") != std::string::npos) throw std::bad_alloc(); // the library swallowed it
    if (!scene || !scene->mRootNode)
        throw Error(fmt::format("cannot be read ({})", problem), source.where(),
                    "Export or copy the file again.");
    Model model = assimpScene(*scene, source);
    model.files = source.restsOn();
    model.frame = frameOf(*scene, text, extension);
    if (extension == "dae") {
        model.nodes[0].local =
            glm::scale(glm::dmat4(1.0), glm::dvec3(1 / model.frame.unit.metres)) * model.nodes[0].local;
        dropClipPrefix(model);
    }
    dropRoot(model);
    model.placement = model.frame.toMetres();
    return model;
}

} // namespace

/// What reading `bytes` can need: compressed XML grows tenfold, and the library takes some twentyfold of
/// that.
std::size_t memoryFor(std::size_t bytes) {
    return deepStackBytes + (std::size_t(1) << 30) + 256 * bytes;
}

/// In a process of its own, on a deep stack: there are files over which the library crashes, or takes
/// memory without end (a letter among a COLLADA file's indices is enough).
Model readThroughAssimp(files::SourceFile& source, const Progress& progress) {
    const std::size_t size = source.bytes().size();
    return modelFromBytes(inChildProcess(
        [&](const Progress& own) {
            std::string bytes;
            // Opened anew: what is open in this process is not the other's to read from.
            files::SourceFile again(source.address(), own);
            onDeepStack([&] { bytes = toBytes(readHere(again, own)); });
            return bytes;
        },
        memoryFor(size), progress, source.where()));
}

} // namespace zl::formats
