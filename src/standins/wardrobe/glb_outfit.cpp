// One size out of a GLB: objects with bones, in the order of its nodes.
#include "standins/wardrobe/outfit_file.h"
#include "standins/world/glb_data.h"

#include <cmath>

namespace zl::standins::wardrobe {

namespace {

using world::BrokenGlb;
using world::GlbData;
using Json = GlbData::Json;

class GlbOutfit {
public:
    explicit GlbOutfit(const std::string& bytes) : data_(bytes) {}

    OutfitFile read() {
        readBones();
        for (const Json& node : data_.list("nodes"))
            if (node.contains("mesh")) readObject(node);
        return std::move(out_);
    }

private:
    void readBones() {
        const Json &skins = data_.list("skins"), &nodes = data_.list("nodes");
        for (const Json& skin : skins) {
            skinFirst_.push_back(int(out_.bones.size()));
            const Json& joints = skin.at("joints");
            const auto binds = data_.floats<glm::mat4>(GlbData::number(skin, "inverseBindMatrices"));
            if (binds.size() != joints.size()) throw BrokenGlb{"a skin has not one bind matrix a bone"};
            std::map<std::size_t, int> boneOfNode;
            for (std::size_t j = 0; j < joints.size(); ++j) {
                const auto node = joints[j].get<std::size_t>();
                if (node >= nodes.size()) throw BrokenGlb{"a bone is not there"};
                boneOfNode[node] = int(out_.bones.size());
                out_.bones.push_back(
                    {nodes[node].value("name", ""), -1, glm::vec3(glm::inverse(binds[j])[3]) / unitMetres});
            }
            for (std::size_t n = 0; n < nodes.size(); ++n)
                for (const Json& child : nodes[n].value("children", Json::array()))
                    if (boneOfNode.contains(n) && boneOfNode.contains(child.get<std::size_t>()))
                        out_.bones[std::size_t(boneOfNode[child.get<std::size_t>()])].above = boneOfNode[n];
        }
    }

    void readObject(const Json& node) {
        const std::size_t mesh = GlbData::number(node, "mesh");
        if (mesh >= data_.list("meshes").size()) throw BrokenGlb{"a node shows a mesh that is not there"};
        OutfitObject object;
        object.name = node.value("name", "");
        int firstBone = -1;
        if (node.contains("skin")) {
            const std::size_t skin = GlbData::number(node, "skin");
            if (skin >= skinFirst_.size()) throw BrokenGlb{"a node hangs on a skin that is not there"};
            firstBone = skinFirst_[skin];
        }
        const Json& primitives = data_.list("meshes")[mesh].at("primitives");
        for (std::size_t p = 0; p < primitives.size(); ++p)
            addPrimitive(object, primitives[p], p == 0, firstBone);
        object.materials = std::max<std::size_t>(1, primitives.size());
        out_.objects.push_back(std::move(object));
    }

    /// The primitives of one mesh share their corners here, so those of the first are read and the triangles
    /// of all.
    void addPrimitive(OutfitObject& object, const Json& primitive, bool first, int firstBone) {
        if (primitive.value("mode", 4) != 4) throw BrokenGlb{"the game reads triangles only"};
        const Json& attributes = primitive.at("attributes");
        world::Shape& shape = object.shape;
        if (first) {
            shape.positions = data_.vectors<glm::vec3>(attributes, "POSITION");
            for (glm::vec3& p : shape.positions) p /= unitMetres;
            shape.normals = data_.vectors<glm::vec3>(attributes, "NORMAL");
            shape.uvs = data_.vectors<glm::vec2>(attributes, "TEXCOORD_0");
            readHolds(object, attributes, firstBone);
            if (primitive.contains("material")) wear(object, GlbData::number(primitive, "material"));
        }
        for (const std::uint32_t index : data_.wholes(GlbData::number(primitive, "indices"), 1)) {
            if (index >= shape.positions.size()) throw BrokenGlb{"an index is out of range"};
            shape.indices.push_back(index);
        }
    }

    void readHolds(OutfitObject& object, const Json& attributes, int firstBone) {
        if (!attributes.contains("JOINTS_0") || firstBone < 0) return;
        object.mostWeights = attributes.contains("JOINTS_1") ? 8 : 4;
        const auto joints = data_.wholes(GlbData::number(attributes, "JOINTS_0"), 4);
        const auto weights = data_.vectors<glm::vec4>(attributes, "WEIGHTS_0");
        if (weights.size() * 4 != joints.size() || weights.size() != object.shape.positions.size())
            throw BrokenGlb{"bones and weights are of different number"};
        for (std::size_t v = 0; v < weights.size(); ++v) {
            Hold hold;
            for (std::size_t k = 0; k < 4; ++k) {
                hold.bone[k] = firstBone + int(joints[4 * v + k]);
                hold.weight[k] = weights[v][int(k)];
                if (joints[4 * v + k] >= out_.bones.size())
                    throw BrokenGlb{"a corner hangs on a bone that is not there"};
            }
            object.holds.push_back(hold);
        }
    }

    void wear(OutfitObject& object, std::size_t which) {
        auto look = data_.look(which);
        if (look.hasPicture && look.pictureBytes.empty()) throw BrokenGlb{"a picture lies outside the file"};
        object.material = std::move(look.name);
        object.colour = look.colour;
        object.pictureBytes = std::move(look.pictureBytes);
        const Json& material = data_.list("materials")[which];
        const Json settings = material.value("extras", Json::object()).value("settings", Json::object());
        for (const auto& [name, value] : settings.items())
            if (value.is_number()) object.settings[name] = value.get<float>();
    }

    GlbData data_;
    OutfitFile out_;
    std::vector<int> skinFirst_; ///< each skin's first bone
};

} // namespace

OutfitFile readGlbOutfit(const std::string& bytes) {
    OutfitFile failed;
    try {
        return GlbOutfit(bytes).read();
    } catch (const BrokenGlb& broken) {
        failed.problem = broken.why;
    } catch (const Json::exception&) {
        failed.problem = "its description has another form than the standard's";
    }
    return failed;
}

} // namespace zl::standins::wardrobe
