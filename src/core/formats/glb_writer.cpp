// GLB and VRM through tinygltf's writer: one buffer, one accessor an attribute, triangles as 32-bit indices.
#include "core/formats/format.h"
#include "core/formats/gltf_clip_way.h"
#include "core/formats/gltf_marks.h"
#include "core/formats/gltf_material_writer.h"
#include "core/formats/gltf_turn_limits.h"
#include "core/formats/kept_extensions.h"
#include "core/formats/tinygltf.h"
#include "core/formats/vrm.h"

#include "core/base/error.h"
#include "core/base/unique_names.h"
#include "core/geometry/normals.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <glm/gtx/matrix_decompose.hpp>

#include <algorithm>
#include <cstring>
#include <map>
#include <set>
#include <sstream>

namespace zl::formats {

namespace {

class GlbWriter {
public:
    GlbWriter(const Model& model, const WriteOptions& options)
        : model_(model), options_(options),
          materials_(model, out_,
                     [this](tinygltf::Image& to, const std::string& bytes) { putPicture(to, bytes); }) {
        out_.buffers.emplace_back();
    }

    /// With the model's set-up, and under VRM's ending, where it goes `asAvatar`.
    std::vector<OutFile> write(std::vector<std::string>* dropped, bool asAvatar) {
        out_.asset.version = "2.0";
        out_.asset.generator = "Zest Loom";
        if (!model_.madeFor.empty())
            out_.asset.extras =
                tinygltf::Value(tinygltf::Value::Object{{"engine", tinygltf::Value(model_.madeFor)}});
        materials_.write(dropped);
        writeMeshes();
        writeNodes();
        writeSkins();
        writeClips();
        if (model_.kept) keep(*model_.kept, out_.extensions);
        if (asAvatar)
            writeAvatar(
                model_, out_, [this](const auto& image) { return materials_.image(image); }, dropped);
        if (out_.buffers[0].data.empty()) out_.buffers.clear();
        std::ostringstream stream;
        tinygltf::TinyGLTF writer;
        writer.SetImageWriter(nullptr, nullptr);
        if (!writer.WriteGltfSceneToStream(&out_, stream, false, true))
            throw Refused("the GLB could not be put together", model_.name);
        files_.insert(files_.begin(), {options_.name + (asAvatar ? ".vrm" : ".glb"), stream.str()});
        return std::move(files_);
    }

private:
    void keep(const KeptExtensions& kept, tinygltf::ExtensionMap& to) {
        putKept(kept, to, out_.extensionsUsed,
                [this](const auto& image) { return materials_.texture(image); });
    }
    void putPicture(tinygltf::Image& to, const std::string& bytes) {
        if (options_.pictureFolder.empty() && !options_.picturesBeside) {
            to.bufferView = addView(bytes.data(), bytes.size(), 0);
            return;
        }
        const char* ending = to.mimeType == "image/jpeg" ? ".jpg" : ".png";
        to.uri = options_.pictureFolder + pictureNames_.made(fileNameFrom(to.name) + ending);
        to.mimeType.clear();
        files_.push_back({to.uri, bytes});
    }
    int addView(const void* data, std::size_t size, int target) {
        auto& buffer = out_.buffers[0].data;
        buffer.resize((buffer.size() + 3) / 4 * 4);
        tinygltf::BufferView view;
        view.buffer = 0;
        view.byteOffset = buffer.size();
        view.byteLength = size;
        view.target = target;
        const auto* bytes = static_cast<const unsigned char*>(data);
        buffer.insert(buffer.end(), bytes, bytes + size);
        out_.bufferViews.push_back(view);
        return static_cast<int>(out_.bufferViews.size()) - 1;
    }
    int addAccessor(const void* data, std::size_t size, std::size_t count, int component, int type,
                    int target = 0) {
        tinygltf::Accessor accessor;
        accessor.bufferView = addView(data, size, target);
        accessor.componentType = component;
        accessor.type = type;
        accessor.count = count;
        out_.accessors.push_back(accessor);
        return static_cast<int>(out_.accessors.size()) - 1;
    }
    template <class T>
    int addFloats(const std::vector<T>& values, int type, int target = TINYGLTF_TARGET_ARRAY_BUFFER) {
        return addAccessor(values.data(), values.size() * sizeof(T), values.size(),
                           TINYGLTF_COMPONENT_TYPE_FLOAT, type, target);
    }
    int addPositions(const std::vector<glm::vec3>& positions) {
        const int index = addFloats(positions, TINYGLTF_TYPE_VEC3);
        glm::vec3 low(positions[0]), high(positions[0]);
        for (const glm::vec3& p : positions) low = glm::min(low, p), high = glm::max(high, p);
        out_.accessors[index].minValues = {low.x, low.y, low.z};
        out_.accessors[index].maxValues = {high.x, high.y, high.z};
        return index;
    }

    void writeMeshes() {
        written_.assign(model_.meshes.size(), -1);
        for (std::size_t i = 0; i < model_.meshes.size(); ++i) {
            const Mesh& mesh = *model_.meshes[i];
            if (mesh.indices.empty()) continue;
            tinygltf::Mesh target;
            target.name = mesh.name;
            tinygltf::Primitive base;
            base.mode = TINYGLTF_MODE_TRIANGLES;
            base.attributes["POSITION"] = addPositions(mesh.positions);
            if (!mesh.normals.empty())
                base.attributes["NORMAL"] = addFloats(unitNormals(mesh.normals), TINYGLTF_TYPE_VEC3);
            if (!mesh.tangents.empty())
                base.attributes["TANGENT"] = addFloats(mesh.tangents, TINYGLTF_TYPE_VEC4);
            // A picture must lie on some UVs, also where its material is worn by a mesh that lacks them.
            std::size_t sets = mesh.uvSets.size();
            for (const MaterialRun& run : mesh.runs)
                if (run.material >= 0 && run.triangleCount > 0)
                    for (const PictureUse& use : model_.materials[run.material].pictures)
                        if (use) sets = std::max(sets, std::size_t(use.uvSet) + 1);
            const std::vector<glm::vec2> none(sets > mesh.uvSets.size() ? mesh.vertexCount() : 0,
                                              glm::vec2(0));
            for (std::size_t s = 0; s < sets; ++s)
                base.attributes[fmt::format("TEXCOORD_{}", s)] =
                    addFloats(s < mesh.uvSets.size() ? mesh.uvSets[s] : none, TINYGLTF_TYPE_VEC2);
            if (!mesh.colours.empty())
                base.attributes["COLOR_0"] = addFloats(mesh.colours, TINYGLTF_TYPE_VEC4);
            if (!mesh.joints.empty() && !mesh.weights.empty()) {
                auto joints = mesh.joints; // the format wants joint 0 where the weight is 0
                for (std::size_t v = 0; v < joints.size(); ++v)
                    for (int k = 0; k < 4; ++k)
                        if (mesh.weights[v][k] == 0) joints[v][k] = 0;
                base.attributes["JOINTS_0"] = addAccessor(
                    joints.data(), joints.size() * sizeof(glm::u16vec4), joints.size(),
                    TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT, TINYGLTF_TYPE_VEC4, TINYGLTF_TARGET_ARRAY_BUFFER);
                base.attributes["WEIGHTS_0"] = addFloats(mesh.weights, TINYGLTF_TYPE_VEC4);
            }
            std::vector<tinygltf::Value> names;
            for (const MorphTarget& morph : mesh.morphs) {
                std::map<std::string, int> t{{"POSITION", addPositions(morph.positions)}};
                if (!morph.normals.empty()) t["NORMAL"] = addFloats(morph.normals, TINYGLTF_TYPE_VEC3);
                base.targets.push_back(t);
                names.emplace_back(morph.name);
            }
            if (!names.empty())
                target.extras =
                    tinygltf::Value(tinygltf::Value::Object{{"targetNames", tinygltf::Value(names)}});
            for (const MaterialRun& run : mesh.runs) {
                if (run.triangleCount == 0) continue;
                tinygltf::Primitive primitive = base;
                primitive.material = run.material;
                const std::size_t count = 3 * std::size_t(run.triangleCount);
                primitive.indices = addAccessor(&mesh.indices[3 * std::size_t(run.firstTriangle)], count * 4,
                                                count, TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT,
                                                TINYGLTF_TYPE_SCALAR, TINYGLTF_TARGET_ELEMENT_ARRAY_BUFFER);
                target.primitives.push_back(primitive);
            }
            written_[i] = static_cast<int>(out_.meshes.size());
            out_.meshes.push_back(target);
        }
    }

    static std::vector<glm::vec3> unitNormals(std::vector<glm::vec3> normals) {
        for (glm::vec3& n : normals) {
            const float length = glm::length(n);
            n = length > 1e-20f ? n / length : glm::vec3(0, 1, 0);
        }
        return normals;
    }

    static void putLocal(tinygltf::Node& node, const glm::dmat4& m, bool asParts) {
        if (m == glm::dmat4(1.0)) return;
        if (!asParts) {
            for (int i = 0; i < 16; ++i) node.matrix.push_back(m[i / 4][i % 4]);
            return;
        }
        glm::dvec3 scale(1), translation(0), skew(0);
        glm::dvec4 perspective(0);
        glm::dquat rotation(1, 0, 0, 0);
        if (!glm::decompose(m, scale, rotation, translation, skew, perspective)) {
            // Pressed flat, it has no turn; how wide and where it is can be told all the same.
            rotation = glm::dquat(1, 0, 0, 0), translation = glm::dvec3(m[3]);
            for (int k = 0; k < 3; ++k) scale[k] = glm::length(glm::dvec3(m[k]));
        }
        node.translation = {translation.x, translation.y, translation.z};
        node.rotation = {rotation.x, rotation.y, rotation.z, rotation.w};
        node.scale = {scale.x, scale.y, scale.z};
    }

    void writeNodes() {
        std::set<int> animated;
        for (const auto& clip : model_.clips)
            for (const Channel& channel : clip->channels) animated.insert(channel.node);
        tinygltf::Scene scene;
        scene.name = model_.name;
        bool rootAnimated = false;
        for (int i = 0; i < static_cast<int>(model_.nodes.size()); ++i)
            rootAnimated |= model_.nodes[i].parent < 0 && animated.contains(i);
        // An animated root's own transform is replaced by its clip, so the placement needs a node above it.
        const bool wrapper = rootAnimated && model_.placement != glm::dmat4(1.0);
        for (int i = 0; i < static_cast<int>(model_.nodes.size()); ++i) {
            const Node& source = model_.nodes[i];
            tinygltf::Node node;
            node.name = source.name;
            if (source.mesh >= 0 && source.visible) node.mesh = written_[source.mesh];
            if (node.mesh >= 0) node.skin = source.skin;
            putLocal(node, source.parent < 0 && !wrapper ? model_.placement * source.local : source.local,
                     animated.contains(i));
            if (source.turns) node.extras = turnLimitsValue(*source.turns);
            putMarks(source.marks, node.extras);
            if (source.kept) keep(*source.kept, node.extensions);
            out_.nodes.push_back(node);
            if (source.parent >= 0)
                out_.nodes[source.parent].children.push_back(i);
            else
                scene.nodes.push_back(i);
        }
        if (wrapper) {
            tinygltf::Node node;
            node.name = "placement";
            putLocal(node, model_.placement, false);
            node.children = scene.nodes;
            scene.nodes = {static_cast<int>(out_.nodes.size())};
            out_.nodes.push_back(node);
        }
        out_.scenes.push_back(scene);
        out_.defaultScene = 0;
    }

    void writeSkins() {
        for (const Skin& source : model_.skins) {
            tinygltf::Skin skin;
            skin.name = source.name;
            skin.joints = source.joints;
            skin.skeleton = source.root;
            skin.inverseBindMatrices =
                addAccessor(source.inverseBind.data(), source.inverseBind.size() * 64,
                            source.inverseBind.size(), TINYGLTF_COMPONENT_TYPE_FLOAT, TINYGLTF_TYPE_MAT4);
            out_.skins.push_back(skin);
        }
    }

    void writeClips() {
        for (const auto& source : model_.clips) {
            tinygltf::Animation animation;
            animation.name = source->name;
            if (source->way != glm::dvec3(0))
                animation.extras = clipWayValue(glm::dmat3(model_.placement) * source->way);
            for (const Channel& c : source->channels) {
                if (c.times.empty()) continue;
                static constexpr const char* paths[] = {"translation", "rotation", "scale", "weights"};
                static constexpr const char* curves[] = {"LINEAR", "STEP", "CUBICSPLINE"};
                const auto target = static_cast<int>(c.target);
                tinygltf::AnimationSampler sampler;
                sampler.interpolation = curves[static_cast<int>(c.curve)];
                sampler.input = addFloats(c.times, TINYGLTF_TYPE_SCALAR, 0);
                out_.accessors[sampler.input].minValues = {*std::ranges::min_element(c.times)};
                out_.accessors[sampler.input].maxValues = {*std::ranges::max_element(c.times)};
                const int width = target == 1 ? 4 : target == 3 ? 1 : 3;
                const int type = width == 4   ? TINYGLTF_TYPE_VEC4
                                 : width == 3 ? TINYGLTF_TYPE_VEC3
                                              : TINYGLTF_TYPE_SCALAR;
                sampler.output = addAccessor(c.values.data(), c.values.size() * 4, c.values.size() / width,
                                             TINYGLTF_COMPONENT_TYPE_FLOAT, type);
                tinygltf::AnimationChannel channel;
                channel.sampler = static_cast<int>(animation.samplers.size());
                channel.target_node = c.node;
                channel.target_path = paths[target];
                animation.samplers.push_back(sampler);
                animation.channels.push_back(channel);
            }
            if (!animation.channels.empty()) out_.animations.push_back(animation);
        }
    }

    const Model& model_;
    const WriteOptions& options_;
    tinygltf::Model out_;
    GltfMaterialWriter materials_;
    std::vector<int> written_;
    std::vector<OutFile> files_; ///< pictures beside it
    UniqueNames pictureNames_ = uniqueFileNames();
};

} // namespace

std::vector<OutFile> writeGlb(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped) {
    if (dropped && !model.colliders.empty())
        dropped->emplace_back("colliders (deliver writes them as their own files)");
    return GlbWriter(model, options).write(dropped, false);
}

std::vector<OutFile> writeVrm(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped) {
    if (!model.avatar)
        throw Refused("is not set up as an avatar", model.name,
                      "Put Avatar set-up, or Take the set-up from, among its steps.");
    return GlbWriter(model, options).write(dropped, true);
}

} // namespace zl::formats
