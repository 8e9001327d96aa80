#include "core/formats/assimp_scene.h"

#include "core/formats/picture_beside.h"

#include "core/base/error.h"
#include "core/geometry/merge_meshes.h"
#include "core/texture/picture_file.h"

#include <assimp/scene.h>
#include <fmt/format.h>

#include <map>

namespace zl::formats {

namespace {

glm::dmat4 matrix(const aiMatrix4x4& m) {
    return {m.a1, m.b1, m.c1, m.d1, m.a2, m.b2, m.c2, m.d2, m.a3, m.b3, m.c3, m.d3, m.a4, m.b4, m.c4, m.d4};
}
glm::vec3 vector(const aiVector3D& v) {
    return {v.x, v.y, v.z};
}

class SceneReader {
public:
    SceneReader(const aiScene& scene, files::SourceFile& source) : scene_(scene), source_(source) {}

    Model read() {
        for (unsigned i = 0; i < scene_.mNumMaterials; ++i) readMaterial(*scene_.mMaterials[i]);
        readNodes();
        readClips();
        if (scene_.mNumCameras > 0) model_.dropped.emplace_back("cameras");
        if (scene_.mNumLights > 0) model_.dropped.emplace_back("lights");
        return std::move(model_);
    }

private:
    int picture(const aiMaterial& material, aiTextureType type) {
        aiString name;
        if (material.GetTexture(type, 0, &name) != aiReturn_SUCCESS) return -1;
        const std::string key = name.C_Str();
        if (const auto known = pictures_.find(key); known != pictures_.end()) return known->second;
        int index = -1;
        try {
            if (const aiTexture* held = scene_.GetEmbeddedTexture(key.c_str()); held && held->mHeight == 0) {
                const auto* bytes = reinterpret_cast<const char*>(held->pcData);
                model_.images.push_back(texture::pictureFromBytes(
                    std::filesystem::path(held->mFilename.C_Str()).filename().string(),
                    {bytes, bytes + held->mWidth}));
                index = static_cast<int>(model_.images.size()) - 1;
            } else if (const auto file = source_.beside(key)) {
                model_.images.push_back(pictureBeside(source_, *file));
                index = static_cast<int>(model_.images.size()) - 1;
            } else {
                model_.warnings.push_back(
                    fmt::format("the picture \"{}\" is missing; put it beside the model", key));
            }
        } catch (const Error& error) {
            model_.warnings.push_back("the picture " + error.sentence());
        }
        return pictures_[key] = index;
    }

    void readPictures(const aiMaterial& source, Material& material) {
        static constexpr std::pair<PictureRole, aiTextureType> types[] = {
            {PictureRole::Colour, aiTextureType_BASE_COLOR},
            {PictureRole::Colour, aiTextureType_DIFFUSE},
            {PictureRole::Opacity, aiTextureType_OPACITY},
            {PictureRole::Normal, aiTextureType_NORMALS},
            {PictureRole::Height, aiTextureType_HEIGHT},
            {PictureRole::Roughness, aiTextureType_DIFFUSE_ROUGHNESS},
            {PictureRole::Metalness, aiTextureType_METALNESS},
            {PictureRole::Gloss, aiTextureType_SHININESS},
            {PictureRole::Specular, aiTextureType_SPECULAR},
            {PictureRole::Occlusion, aiTextureType_AMBIENT_OCCLUSION},
            {PictureRole::Emission, aiTextureType_EMISSIVE}};
        for (const auto& [role, type] : types)
            if (PictureUse& use = material.picture(role); !use) use.image = picture(source, type);
        PictureUse& opacity = material.picture(PictureRole::Opacity);
        if (material.picture(PictureRole::Colour)) material.baseColour = {1, 1, 1, material.baseColour.a};
        if (material.picture(PictureRole::Roughness)) material.roughness = 1;
        if (material.picture(PictureRole::Metalness)) material.metalness = 1;
        if (!opacity) return;
        material.alpha = Material::Alpha::Blend;
        if (opacity.image == material.image(PictureRole::Colour)) opacity.channel = PictureChannel::Alpha;
    }

    void readMaterial(const aiMaterial& source) {
        Material material;
        material.name = source.GetName().C_Str();
        aiColor4D colour;
        if (source.Get(AI_MATKEY_BASE_COLOR, colour) == aiReturn_SUCCESS ||
            source.Get(AI_MATKEY_COLOR_DIFFUSE, colour) == aiReturn_SUCCESS)
            material.baseColour = {colour.r, colour.g, colour.b, 1};
        source.Get(AI_MATKEY_OPACITY, material.baseColour.a);
        source.Get(AI_MATKEY_METALLIC_FACTOR, material.metalness);
        source.Get(AI_MATKEY_ROUGHNESS_FACTOR, material.roughness);
        readPictures(source, material);
        model_.materials.push_back(material);
    }

    Mesh readMesh(const aiMesh& source, Skin& skin, std::map<std::string, int>& boneIndex) {
        Mesh mesh;
        const unsigned n = source.mNumVertices;
        for (unsigned i = 0; i < n; ++i) mesh.positions.push_back(vector(source.mVertices[i]));
        if (source.HasNormals())
            for (unsigned i = 0; i < n; ++i) mesh.normals.push_back(vector(source.mNormals[i]));
        for (unsigned s = 0; s < source.GetNumUVChannels(); ++s) {
            auto& set = mesh.uvSets.emplace_back();
            for (unsigned i = 0; i < n; ++i)
                set.emplace_back(source.mTextureCoords[s][i].x, 1 - source.mTextureCoords[s][i].y);
        }
        if (source.HasVertexColors(0))
            for (unsigned i = 0; i < n; ++i) {
                const aiColor4D& c = source.mColors[0][i];
                mesh.colours.emplace_back(c.r, c.g, c.b, c.a);
            }
        for (unsigned f = 0; f < source.mNumFaces; ++f)
            if (source.mFaces[f].mNumIndices == 3)
                mesh.indices.insert(mesh.indices.end(), source.mFaces[f].mIndices,
                                    source.mFaces[f].mIndices + 3);
        if (source.HasBones()) {
            mesh.joints.resize(n, glm::u16vec4(0));
            mesh.weights.resize(n, glm::vec4(0));
            std::vector<int> used(n, 0);
            for (unsigned b = 0; b < source.mNumBones; ++b) {
                const aiBone& bone = *source.mBones[b];
                const auto [entry, isNew] =
                    boneIndex.try_emplace(bone.mName.C_Str(), static_cast<int>(boneIndex.size()));
                if (isNew) {
                    skin.joints.push_back(-1);
                    skin.inverseBind.push_back(glm::mat4(matrix(bone.mOffsetMatrix)));
                }
                for (unsigned w = 0; w < bone.mNumWeights; ++w) {
                    const unsigned v = bone.mWeights[w].mVertexId;
                    if (v >= n || used[v] >= 4) continue;
                    mesh.joints[v][used[v]] = static_cast<std::uint16_t>(entry->second);
                    mesh.weights[v][used[v]++] = bone.mWeights[w].mWeight;
                }
            }
        }
        for (unsigned m = 0; m < source.mNumAnimMeshes; ++m) {
            const aiAnimMesh& target = *source.mAnimMeshes[m];
            if (target.mNumVertices != n || !target.mVertices) continue;
            MorphTarget morph{target.mName.C_Str(), {}, {}};
            for (unsigned i = 0; i < n; ++i)
                morph.positions.push_back(vector(target.mVertices[i]) - mesh.positions[i]);
            mesh.morphs.push_back(std::move(morph));
        }
        mesh.runs = {
            {0, static_cast<std::uint32_t>(mesh.triangleCount()), static_cast<int>(source.mMaterialIndex)}};
        return mesh;
    }

    struct Made {
        int mesh = -1, skin = -1;
    };
    /// The library's meshes of one node as one mesh, with a skin of the node's name when they hang on bones;
    /// `bones` receives the bones' places in it by name.
    Made readShape(const std::vector<unsigned>& shown, const std::string& name,
                   std::vector<std::map<std::string, int>>& bones) {
        Skin skin;
        std::map<std::string, int> boneIndex;
        std::vector<Mesh> parts;
        for (const unsigned m : shown) parts.push_back(readMesh(*scene_.mMeshes[m], skin, boneIndex));
        Mesh mesh = geometry::merged(parts, &model_.dropped);
        mesh.name = name;
        Made made{static_cast<int>(model_.meshes.size()), -1};
        model_.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
        if (boneIndex.empty()) return made;
        made.skin = static_cast<int>(model_.skins.size());
        skin.name = name;
        model_.skins.push_back(std::move(skin));
        bones.push_back(std::move(boneIndex));
        return made;
    }

    void readNodes() {
        std::vector<std::pair<const aiNode*, int>> open{{scene_.mRootNode, -1}};
        std::vector<std::map<std::string, int>> bones;
        std::map<std::vector<unsigned>, Made> made;
        while (!open.empty()) {
            const auto [source, parent] = open.back();
            open.pop_back();
            const int own = static_cast<int>(model_.nodes.size());
            Node node{source->mName.C_Str(), parent, matrix(source->mTransformation)};
            if (source->mNumMeshes > 0) {
                // A shape that many nodes show is read once.
                const std::vector<unsigned> shown(source->mMeshes, source->mMeshes + source->mNumMeshes);
                const auto known = made.find(shown);
                const Made shape = known != made.end() ? known->second : readShape(shown, node.name, bones);
                made.try_emplace(shown, shape);
                node.mesh = shape.mesh, node.skin = shape.skin;
            }
            nodeByName_.try_emplace(node.name, own);
            model_.nodes.push_back(std::move(node));
            for (unsigned c = source->mNumChildren; c-- > 0;) open.emplace_back(source->mChildren[c], own);
        }
        for (std::size_t s = 0; s < bones.size(); ++s)
            for (const auto& [name, index] : bones[s]) {
                const auto found = nodeByName_.find(name);
                if (found == nodeByName_.end())
                    throw Error(
                        fmt::format("weighs corners to the bone \"{}\", which it does not have", name),
                        source_.where());
                model_.skins[s].joints[index] = found->second;
            }
    }

    void readClips() {
        for (unsigned a = 0; a < scene_.mNumAnimations; ++a) {
            const aiAnimation& source = *scene_.mAnimations[a];
            const double rate = source.mTicksPerSecond > 0 ? source.mTicksPerSecond : 25.0;
            auto clip = std::make_shared<Clip>();
            clip->name = source.mName.length ? source.mName.C_Str() : fmt::format("clip-{}", a + 1);
            for (unsigned c = 0; c < source.mNumChannels; ++c) {
                const aiNodeAnim& s = *source.mChannels[c];
                const auto found = nodeByName_.find(s.mNodeName.C_Str());
                if (found == nodeByName_.end()) continue;
                const auto add = [&](Channel::Target target, const auto* keys, unsigned count,
                                     const auto& values) {
                    Channel channel{found->second, target};
                    for (unsigned k = 0; k < count; ++k) {
                        channel.times.push_back(float(keys[k].mTime / rate));
                        values(channel.values, keys[k].mValue);
                    }
                    if (count > 0) clip->channels.push_back(std::move(channel));
                };
                const auto three = [](std::vector<float>& out, const aiVector3D& v) {
                    out.insert(out.end(), {v.x, v.y, v.z});
                };
                const auto four = [](std::vector<float>& out, const aiQuaternion& q) {
                    out.insert(out.end(), {q.x, q.y, q.z, q.w});
                };
                add(Channel::Target::Translation, s.mPositionKeys, s.mNumPositionKeys, three);
                add(Channel::Target::Rotation, s.mRotationKeys, s.mNumRotationKeys, four);
                add(Channel::Target::Scale, s.mScalingKeys, s.mNumScalingKeys, three);
            }
            model_.clips.push_back(std::move(clip));
        }
    }

    const aiScene& scene_;
    files::SourceFile& source_;
    Model model_;
    std::map<std::string, int> pictures_;
    std::map<std::string, int> nodeByName_;
};

} // namespace

Model assimpScene(const aiScene& scene, files::SourceFile& source) {
    return SceneReader(scene, source).read();
}

} // namespace zl::formats
