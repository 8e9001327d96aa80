#include "core/formats/mend_model.h"

#include "core/formats/mend_mesh.h"
#include "core/formats/skinned_places.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/utf8.h"
#include "core/model/finite.h"
#include "core/model/promises.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::formats {

namespace {

class Mender {
public:
    explicit Mender(Model& model) : model_(model) {}

    void mend() {
        for (auto& mesh : model_.meshes) mendMesh(mesh);
        leaveOutLines();
        mendImages();
        mendMaterials();
        mendSkins();
        mendNodes();
        mendClips();
        mendName(model_.name);
        if (!isFinite(model_.placement)) model_.placement = model_.frame.toMetres();
        if (names_ > 0)
            warn(fmt::format("{} not UTF-8; read as Latin-1",
                             showCount(static_cast<long long>(names_), "name is", "names are")));
        for (std::string& text : model_.warnings) text = asUtf8(text);
        for (std::string& text : model_.dropped) text = asUtf8(text);
        if (const std::string broken = brokenAroundMeshes(model_); !broken.empty())
            throw Error(broken, {}, "Export the model again.");
        placeSkinnedMeshes(model_);
    }

private:
    void warn(std::string text) { model_.warnings.push_back(std::move(text)); }

    bool mendName(std::string& name) {
        if (isUtf8(name)) return false;
        name = asUtf8(name);
        ++names_;
        return true;
    }

    void mendMesh(std::shared_ptr<const Mesh>& held) {
        const bool names = !isUtf8(held->name) || std::ranges::any_of(held->morphs, [](const MorphTarget& m) {
            return !isUtf8(m.name);
        });
        const int materials = static_cast<int>(model_.materials.size());
        const bool runs = std::ranges::any_of(held->runs, [&](const MaterialRun& run) {
            return run.material < -1 || run.material >= materials;
        });
        if (!names && !runs && brokenPromise(*held).empty() && !hasStrayCorners(*held)) return;
        Mesh mesh = mendedMesh(*held, model_.warnings);
        mendName(mesh.name);
        for (MorphTarget& morph : mesh.morphs) mendName(morph.name);
        for (MaterialRun& run : mesh.runs)
            if (run.material < -1 || run.material >= materials) {
                run.material = -1;
                warn(fmt::format("faces of \"{}\" have a material that is not there; they are shown plain",
                                 mesh.name));
            }
        if (const std::string broken = brokenPromise(mesh); !broken.empty())
            throw Error(broken, mesh.name, "Export the model again.");
        held = std::make_shared<const Mesh>(std::move(mesh));
    }

    /// Lines and points among faces: nothing shows them, and each size would be measured by them. A model of
    /// nothing else keeps them, for people to see what it is.
    void leaveOutLines() {
        const auto hasFaces = [](const auto& mesh) { return !mesh->indices.empty(); };
        if (std::ranges::none_of(model_.meshes, hasFaces)) return;
        std::size_t objects = 0;
        for (Node& node : model_.nodes) {
            if (node.mesh < 0 || node.mesh >= static_cast<int>(model_.meshes.size())) continue;
            if (hasFaces(model_.meshes[std::size_t(node.mesh)])) continue;
            node.mesh = -1, node.skin = -1;
            ++objects;
        }
        if (objects > 0)
            warn(fmt::format("left out {} without faces: lines or points",
                             showCount(static_cast<long long>(objects), "object", "objects")));
    }

    // Pictures and clips are large, so one is copied only when something in it is to be mended.

    void mendImages() {
        for (auto& held : model_.images) {
            if (isUtf8(held->name)) continue;
            Image image = *held;
            mendName(image.name);
            held = std::make_shared<const Image>(std::move(image));
        }
    }

    void mendMaterials() {
        const Material usual;
        for (Material& m : model_.materials) {
            mendName(m.name);
            const auto mended = [](auto& value, const auto& instead) {
                bool finite = true;
                if constexpr (std::is_floating_point_v<std::remove_reference_t<decltype(value)>>)
                    finite = std::isfinite(value);
                else
                    finite = isFinite(value);
                if (!finite) value = instead;
                return !finite;
            };
            int odd = 0; // each is looked at, so no short cut
            odd += mended(m.baseColour, usual.baseColour), odd += mended(m.emission, usual.emission);
            odd += mended(m.metalness, usual.metalness), odd += mended(m.roughness, usual.roughness);
            odd += mended(m.alphaCutoff, usual.alphaCutoff);
            for (PictureUse& use : m.pictures) {
                if (use.image < -1 || use.image >= static_cast<int>(model_.images.size())) use.image = -1;
                if (use.uvSet < 0 || use.uvSet >= mostUvSets) {
                    use = {};
                    warn(fmt::format("a picture of the material \"{}\" lies on UVs that are not there",
                                     m.name));
                }
                odd += mended(use.placement.offset, glm::vec2(0)), odd += mended(use.placement.turn, 0.0f);
                odd += mended(use.placement.scale, glm::vec2(1));
            }
            if (odd > 0) warn(fmt::format("the material \"{}\" has settings that are no numbers", m.name));
        }
    }

    void mendSkins() {
        for (Skin& skin : model_.skins) {
            mendName(skin.name);
            if (skin.root < -1 || skin.root >= static_cast<int>(model_.nodes.size())) skin.root = -1;
            for (glm::mat4& bind : skin.inverseBind)
                if (!isFinite(bind)) {
                    bind = glm::mat4(1.0f);
                    warn(fmt::format("a bone of \"{}\" is bound at no number", skin.name));
                }
        }
    }

    void mendNodes() {
        for (Node& node : model_.nodes) {
            mendName(node.name);
            if (isFinite(node.local)) continue;
            node.local = glm::dmat4(1.0);
            warn(fmt::format("\"{}\" stands at no number; put where its parent is", node.name));
        }
    }

    void mendClips() {
        const auto isBroken = [&](const Channel& channel) { return !isWholeChannel(channel, model_); };
        for (auto& held : model_.clips) {
            if (isUtf8(held->name) && std::ranges::none_of(held->channels, isBroken)) continue;
            Clip clip = *held;
            mendName(clip.name);
            if (const std::size_t gone = std::erase_if(clip.channels, isBroken); gone > 0)
                warn(fmt::format("left out {} of the clip \"{}\": its keys are not whole or not in order",
                                 showCount(static_cast<long long>(gone), "channel", "channels"), clip.name));
            held = std::make_shared<const Clip>(std::move(clip));
        }
    }

    Model& model_;
    std::size_t names_ = 0;
};

} // namespace

void mendModel(Model& model) {
    Mender(model).mend();
}

} // namespace zl::formats
