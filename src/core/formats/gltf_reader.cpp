// glTF 2.0 and GLB: what gltf_container took apart becomes a Model. Source: glTF 2.0 specification (Khronos).
#include "core/formats/format.h"
#include "core/formats/gltf_clip_way.h"
#include "core/formats/gltf_container.h"
#include "core/formats/mend_mesh.h"
#include "core/formats/gltf_data.h"
#include "core/formats/gltf_marks.h"
#include "core/formats/gltf_materials.h"
#include "core/formats/gltf_turn_limits.h"
#include "core/formats/kept_extensions.h"
#include "core/formats/tinygltf.h"
#include "core/formats/vrm.h"

#include "core/base/error.h"
#include "core/base/unique_names.h"
#include "core/base/utf8.h"
#include "core/geometry/merge_meshes.h"
#include "core/texture/picture_file.h"

#include <fmt/format.h>
#include <glm/gtc/type_ptr.hpp>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>
#include <set>
#include <span>
#include <unordered_map>

namespace zl::formats {

namespace {

class GltfReader {
public:
    GltfReader(const tinygltf::Model& source, const std::string& where)
        : source_(source), data_(source, where) {}

    Model read(const Progress& progress) {
        model_.frame = {unitNamed("m"), Up::Y, false, false};
        if (source_.asset.extras.IsObject() && source_.asset.extras.Has("engine") &&
            source_.asset.extras.Get("engine").IsString())
            model_.madeFor = asUtf8(source_.asset.extras.Get("engine").Get<std::string>());
        readImages();
        readMaterials();
        for (std::size_t i = 0; i < source_.meshes.size(); ++i) {
            progress.report(0.3 + 0.6 * double(i) / double(source_.meshes.size()), "reading meshes");
            model_.meshes.push_back(readMesh(source_.meshes[i]));
        }
        readNodes();
        readSkins();
        readClips();
        readAvatar({source_, order_, [this](int image) { return pictureOf(image); }}, model_);
        keepExtensions();
        if (!source_.cameras.empty()) model_.dropped.emplace_back("cameras");
        if (!source_.lights.empty()) model_.dropped.emplace_back("lights");
        return std::move(model_);
    }

private:
    void readImages() {
        for (const tinygltf::Image& image : source_.images) {
            std::string name = !image.uri.empty() && !image.uri.starts_with("data:")
                                   ? std::filesystem::path(image.uri).filename().string()
                                   : image.name;
            if (name.empty()) name = fmt::format("picture-{}", model_.images.size() + 1);
            int& index = pictures_.emplace_back(-1);
            if (image.image.empty() && image.bufferView < 0) {
                model_.warnings.push_back(
                    fmt::format("the picture \"{}\" is missing; put it beside the model", name));
                continue;
            }
            try {
                model_.images.push_back(
                    texture::pictureFromBytes(name, std::string(image.image.begin(), image.image.end())));
                index = static_cast<int>(model_.images.size()) - 1;
            } catch (const Error& error) {
                model_.warnings.push_back("the picture " + error.sentence());
            }
        }
    }

    std::shared_ptr<const Image> pictureOf(int image) const {
        const int own = image >= 0 && image < static_cast<int>(pictures_.size()) ? pictures_[image] : -1;
        return own < 0 ? nullptr : model_.images[std::size_t(own)];
    }

    /// What the file, its nodes and its materials say and is not understood goes along; elsewhere it does
    /// not.
    void keepExtensions() {
        std::set<std::string> kept;
        const auto own = [&](const tinygltf::ExtensionMap& extensions) {
            auto out = keptOf(extensions, [this](int texture) {
                const bool known = texture >= 0 && texture < static_cast<int>(source_.textures.size());
                return known ? pictureOf(source_.textures[std::size_t(texture)].source) : nullptr;
            });
            if (out)
                for (const auto& [name, json] : out->byName.items()) kept.insert(name);
            return out;
        };
        model_.kept = own(source_.extensions);
        for (std::size_t m = 0; m < source_.materials.size(); ++m)
            model_.materials[m].kept = own(source_.materials[m].extensions);
        for (std::size_t n = 0; n < source_.nodes.size(); ++n)
            if (order_[n] >= 0) model_.nodes[std::size_t(order_[n])].kept = own(source_.nodes[n].extensions);
        for (const std::string& extension : source_.extensionsUsed)
            if (!isUnderstood(extension) && !kept.contains(extension))
                model_.dropped.push_back("extension " + extension);
    }

    int picture(int texture) const {
        if (texture < 0) return -1;
        const int image = data_.at(source_.textures, texture, "texture").source;
        return image >= 0 && image < static_cast<int>(pictures_.size()) ? pictures_[image] : -1;
    }

    void readMaterials() {
        model_.materials =
            readGltfMaterials(source_, model_.images, [this](int texture) { return picture(texture); });
    }

    static int attribute(const std::map<std::string, int>& attributes, const std::string& name) {
        const auto found = attributes.find(name);
        return found == attributes.end() ? -1 : found->second;
    }

    /// Strips and fans as plain triangles; empty for points and lines.
    static std::vector<std::uint32_t> triangles(const std::vector<std::uint32_t>& list, int mode) {
        if (mode == TINYGLTF_MODE_TRIANGLES || mode == -1)
            return {list.begin(), list.begin() + list.size() / 3 * 3};
        std::vector<std::uint32_t> out;
        for (std::size_t i = 2; i < list.size(); ++i) {
            if (mode == TINYGLTF_MODE_TRIANGLE_STRIP)
                out.insert(out.end(), {list[i - 2], list[i - 1 + i % 2], list[i - i % 2]});
            else if (mode == TINYGLTF_MODE_TRIANGLE_FAN)
                out.insert(out.end(), {list[0], list[i - 1], list[i]});
        }
        return out;
    }

    /// The corners that a primitive goes through, one after the other.
    std::vector<std::uint32_t> cornerList(const tinygltf::Primitive& primitive, std::size_t corners) const {
        std::vector<std::uint32_t> list;
        if (primitive.indices >= 0) {
            for (const double value : data_.numbers<double>(primitive.indices, 1))
                list.push_back(value >= 0 && value < 4294967295.0 ? static_cast<std::uint32_t>(value) : ~0u);
        } else {
            data_.spend(corners * sizeof(std::uint32_t));
            list.resize(corners);
            for (std::uint32_t i = 0; i < list.size(); ++i) list[i] = i;
        }
        return list;
    }

    /// Where a primitive uses less than half of the corners that it shares with others, renumbers `list` to
    /// those it uses, which `kept` receives; true then.
    static bool onlyUsed(std::vector<std::uint32_t>& list, std::size_t corners,
                         std::vector<std::uint32_t>& kept) {
        if (list.size() >= corners / 2) return false;
        std::unordered_map<std::uint32_t, std::uint32_t> newIndex;
        for (std::uint32_t& i : list) {
            if (i >= corners) continue; // left for the mender to count
            const auto [entry, fresh] = newIndex.try_emplace(i, static_cast<std::uint32_t>(kept.size()));
            if (fresh) kept.push_back(i);
            i = entry->second;
        }
        for (std::uint32_t& i : list)
            if (i >= corners) i = ~0u;
        return true;
    }

    /// Whether two primitives are made on the same corners, so that what lies between their materials stays
    /// joined.
    static bool shareCorners(const tinygltf::Primitive& a, const tinygltf::Primitive& b) {
        return a.attributes == b.attributes && a.targets == b.targets;
    }

    /// Primitives that share their corners, as a mesh with a run each.
    Mesh readPrimitives(std::span<const tinygltf::Primitive> primitives, const tinygltf::Mesh& owner) {
        Mesh mesh;
        const tinygltf::Primitive& primitive = primitives[0];
        const auto& a = primitive.attributes;
        const int place = attribute(a, "POSITION");
        const std::size_t corners = place < 0 ? 0 : data_.at(source_.accessors, place, "accessor").count;
        for (const tinygltf::Primitive& one : primitives) {
            if (one.material >= static_cast<int>(source_.materials.size()))
                data_.fail("refers to a material that does not exist");
            if (one.mode == TINYGLTF_MODE_LINE || one.mode == TINYGLTF_MODE_LINE_STRIP ||
                one.mode == TINYGLTF_MODE_LINE_LOOP)
                noteOnce("lines");
            const auto own = triangles(cornerList(one, corners), one.mode);
            mesh.runs.push_back({static_cast<std::uint32_t>(mesh.triangleCount()),
                                 static_cast<std::uint32_t>(own.size() / 3), one.material});
            mesh.indices.insert(mesh.indices.end(), own.begin(), own.end());
        }
        std::vector<std::uint32_t> kept;
        const bool some = !mesh.indices.empty() && onlyUsed(mesh.indices, corners, kept);
        const std::vector<std::uint32_t>* keep = some ? &kept : nullptr;
        if (place >= 0) mesh.positions = data_.vectors<glm::vec3>(place, keep);
        if (const int i = attribute(a, "NORMAL"); i >= 0) mesh.normals = data_.vectors<glm::vec3>(i, keep);
        if (const int i = attribute(a, "TANGENT"); i >= 0) mesh.tangents = data_.vectors<glm::vec4>(i, keep);
        for (std::size_t set = 0; set < std::size_t(mostUvSets); ++set)
            if (const int i = attribute(a, fmt::format("TEXCOORD_{}", set)); i >= 0) {
                // Materials name sets by number, so one that is left out keeps its place.
                mesh.uvSets.resize(set, std::vector<glm::vec2>(mesh.positions.size(), glm::vec2(0)));
                mesh.uvSets.push_back(data_.vectors<glm::vec2>(i, keep));
            }
        if (const int i = attribute(a, "COLOR_0"); i >= 0) {
            if (data_.at(source_.accessors, i, "accessor").type == TINYGLTF_TYPE_VEC3)
                for (const glm::vec3& c : data_.vectors<glm::vec3>(i, keep))
                    mesh.colours.emplace_back(c, 1.0f);
            else
                mesh.colours = data_.vectors<glm::vec4>(i, keep);
        }
        if (const int i = attribute(a, "JOINTS_0"); i >= 0)
            mesh.joints = data_.vectors<glm::u16vec4>(i, keep);
        if (const int i = attribute(a, "WEIGHTS_0"); i >= 0) mesh.weights = data_.vectors<glm::vec4>(i, keep);
        if (attribute(a, "JOINTS_1") >= 0) noteOnce("bone weights beyond four a corner");
        UniqueNames names;
        for (std::size_t t = 0; t < primitive.targets.size(); ++t) {
            MorphTarget morph;
            if (owner.extras.IsObject() && owner.extras.Has("targetNames") &&
                owner.extras.Get("targetNames").IsArray() && t < owner.extras.Get("targetNames").ArrayLen() &&
                owner.extras.Get("targetNames").Get(int(t)).IsString())
                morph.name = owner.extras.Get("targetNames").Get(int(t)).Get<std::string>();
            if (morph.name.empty()) morph.name = fmt::format("morph-{}", t + 1);
            morph.name = names.made(morph.name); // by which expressions and programs tell them apart
            const auto& target = primitive.targets[t];
            const auto offsets = [&](const char* name) {
                const int i = attribute(target, name);
                // A target of no entries moves nothing.
                return i < 0 || data_.at(source_.accessors, i, "accessor").count == 0
                           ? std::vector<glm::vec3>()
                           : data_.vectors<glm::vec3>(i, keep);
            };
            morph.positions = offsets("POSITION");
            morph.normals = offsets("NORMAL");
            if (morph.positions.empty()) morph.positions.resize(mesh.positions.size(), glm::vec3(0));
            mesh.morphs.push_back(std::move(morph));
        }
        return mesh;
    }

    void noteOnce(const std::string& what) {
        if (std::ranges::find(model_.dropped, what) == model_.dropped.end()) model_.dropped.push_back(what);
    }

    std::shared_ptr<const Mesh> readMesh(const tinygltf::Mesh& source) {
        std::vector<Mesh> parts;
        const std::span all(source.primitives);
        for (std::size_t first = 0, end; first < all.size(); first = end) {
            for (end = first + 1; end < all.size() && shareCorners(all[first], all[end]);) ++end;
            parts.push_back(readPrimitives(all.subspan(first, end - first), source));
        }
        if (parts.size() > 1) // putting them together works out normals, and relies on sound faces
            for (Mesh& part : parts) part = mendedMesh(std::move(part), model_.warnings);
        Mesh mesh = geometry::merged(parts, &model_.dropped);
        mesh.name = source.name;
        return std::make_shared<const Mesh>(std::move(mesh));
    }

    static glm::dmat4 localOf(const tinygltf::Node& node) {
        glm::dmat4 m(1.0);
        if (node.matrix.size() == 16) {
            for (int i = 0; i < 16; ++i) m[i / 4][i % 4] = node.matrix[i];
            return m;
        }
        if (node.translation.size() == 3)
            m = glm::translate(m, {node.translation[0], node.translation[1], node.translation[2]});
        if (node.rotation.size() == 4)
            m = m * glm::mat4_cast(
                        glm::dquat(node.rotation[3], node.rotation[0], node.rotation[1], node.rotation[2]));
        if (node.scale.size() == 3) m = glm::scale(m, {node.scale[0], node.scale[1], node.scale[2]});
        return m;
    }

    void readNodes() {
        order_.assign(source_.nodes.size(), -1);
        std::vector<int> roots;
        if (!source_.scenes.empty()) {
            const int scene = source_.defaultScene >= 0 ? source_.defaultScene : 0;
            roots = data_.at(source_.scenes, scene, "scene").nodes;
            if (source_.scenes.size() > 1) model_.dropped.emplace_back("scenes other than the first");
        } else {
            std::set<int> children;
            for (const auto& node : source_.nodes)
                children.insert(node.children.begin(), node.children.end());
            for (int i = 0; i < static_cast<int>(source_.nodes.size()); ++i)
                if (!children.contains(i)) roots.push_back(i);
        }
        std::vector<std::pair<int, int>>
            open; // (source node, our parent); a list, so depth cannot overflow a stack
        for (auto root = roots.rbegin(); root != roots.rend(); ++root) open.emplace_back(*root, -1);
        while (!open.empty()) {
            const auto [index, parent] = open.back();
            open.pop_back();
            const auto& node = data_.at(source_.nodes, index, "node");
            if (order_[index] >= 0)
                data_.fail(fmt::format("has node {} twice in its tree, or below itself",
                                       node.name.empty() ? std::to_string(index) : '"' + node.name + '"'));
            order_[index] = static_cast<int>(model_.nodes.size());
            if (node.mesh >= static_cast<int>(source_.meshes.size()))
                data_.fail("refers to a mesh that does not exist");
            if (node.skin >= static_cast<int>(source_.skins.size()))
                data_.fail("refers to a skin that does not exist");
            model_.nodes.push_back(
                {node.name, parent, localOf(node), node.mesh, node.skin, turnLimitsIn(node.extras)});
            model_.nodes.back().marks = marksIn(node.extras);
            noteRestWeights(node);
            const int own = order_[index];
            for (auto child = node.children.rbegin(); child != node.children.rend(); ++child)
                open.emplace_back(*child, own);
        }
    }

    /// A node's weights stand in for its mesh's. Neither has a place in the model.
    void noteRestWeights(const tinygltf::Node& node) {
        const std::vector<double>& weights = node.mesh < 0 || !node.weights.empty()
                                                 ? node.weights
                                                 : source_.meshes[std::size_t(node.mesh)].weights;
        if (std::ranges::any_of(weights, [](double w) { return w != 0; }))
            noteOnce("how far morph targets are in at rest");
    }

    int ordered(int sourceNode) const {
        return sourceNode >= 0 && sourceNode < static_cast<int>(order_.size()) ? order_[sourceNode] : -1;
    }

    void readSkins() {
        for (const tinygltf::Skin& source : source_.skins) {
            Skin skin;
            skin.name = source.name;
            skin.root = ordered(source.skeleton);
            for (const int joint : source.joints) {
                if (ordered(joint) < 0) data_.fail("has a skin whose bone is not in the scene");
                skin.joints.push_back(ordered(joint));
            }
            skin.inverseBind.resize(skin.joints.size(), glm::mat4(1.0f));
            if (source.inverseBindMatrices >= 0) {
                const auto flat = data_.numbers<float>(source.inverseBindMatrices, 16);
                if (flat.size() < skin.joints.size() * 16)
                    data_.fail("has a skin with too few bind matrices");
                for (std::size_t j = 0; j < skin.joints.size(); ++j)
                    skin.inverseBind[j] = glm::make_mat4(&flat[j * 16]);
            }
            model_.skins.push_back(std::move(skin));
        }
        for (const Node& node : model_.nodes) {
            if (node.skin < 0 || node.mesh < 0) continue;
            const std::size_t bones = model_.skins[node.skin].joints.size();
            for (const glm::u16vec4& j : model_.meshes[node.mesh]->joints)
                if (std::max({j.x, j.y, j.z, j.w}) >= bones)
                    data_.fail("weighs corners to bones that its skin does not have");
        }
    }

    void readClips() {
        for (const tinygltf::Animation& source : source_.animations) {
            auto clip = std::make_shared<Clip>();
            clip->name = source.name.empty() ? fmt::format("clip-{}", model_.clips.size() + 1) : source.name;
            clip->way = clipWayIn(source.extras);
            for (const auto& c : source.channels) {
                Channel channel;
                channel.node = ordered(c.target_node);
                if (channel.node < 0) continue;
                using Target = Channel::Target;
                int width = 3;
                if (c.target_path == "rotation")
                    channel.target = Target::Rotation, width = 4;
                else if (c.target_path == "scale")
                    channel.target = Target::Scale;
                else if (c.target_path == "weights")
                    channel.target = Target::Weights, width = 1;
                else if (c.target_path != "translation")
                    continue;
                const auto& sampler = data_.at(source.samplers, c.sampler, "sampler");
                channel.curve = sampler.interpolation == "STEP"          ? Channel::Curve::Step
                                : sampler.interpolation == "CUBICSPLINE" ? Channel::Curve::CubicSpline
                                                                         : Channel::Curve::Linear;
                channel.times = data_.numbers<float>(sampler.input, 1);
                channel.values = data_.numbers<float>(sampler.output, width);
                clip->channels.push_back(std::move(channel));
            }
            model_.clips.push_back(std::move(clip));
        }
    }

    const tinygltf::Model& source_;
    GltfData data_;
    Model model_;
    std::vector<int> order_;
    std::vector<int> pictures_; ///< of each of the file's images, in the model; -1 where it has none
};

} // namespace

Model readGltf(files::SourceFile& source, const Progress& progress) {
    progress.report(0, "reading");
    GltfContainer container = openGltf(source);
    Model model = GltfReader(container.content, source.where()).read(progress);
    if (!container.warning.empty()) model.warnings.push_back(std::move(container.warning));
    return model;
}

} // namespace zl::formats
