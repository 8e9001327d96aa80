// The site's own reader of GLB (glTF 2.0): triangles of plain accessors, nothing else.
#include "standins/site/glb_file.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>
#include <cstring>
#include <set>

namespace zl::standins::site {

namespace {

using Json = nlohmann::json;

std::uint32_t word(const std::string& bytes, std::size_t at) {
    std::uint32_t value = 0;
    if (at + 4 <= bytes.size()) std::memcpy(&value, bytes.data() + at, 4);
    return value;
}

struct Broken {
    std::string why;
};

class GlbReader {
public:
    explicit GlbReader(const std::string& bytes) : bytes_(bytes) {}

    GlbFile read() {
        findChunks();
        GlbFile out;
        const Json &nodes = list("nodes"), &meshes = list("meshes"), &materials = list("materials");
        out.nodes = nodes.size();
        std::set<std::size_t> used;
        for (const Json& node : nodes) {
            if (!node.contains("mesh")) continue;
            ++out.meshNodes;
            out.objectName = node.value("name", "");
            for (const char* key : {"matrix", "translation", "rotation", "scale"})
                out.carriesTransform |= node.contains(key);
            const std::size_t mesh = number(node, "mesh");
            if (mesh >= meshes.size()) throw Broken{"a node shows a mesh that is not there"};
            for (const Json& primitive : meshes[mesh].at("primitives")) {
                addPrimitive(out.shape, primitive);
                if (!primitive.contains("material")) continue;
                const std::size_t material = number(primitive, "material");
                if (material >= materials.size()) throw Broken{"a material is not there"};
                used.insert(material);
            }
        }
        out.materials = used.size();
        if (!used.empty()) {
            const Json& material = materials[*used.begin()];
            out.materialName = material.value("name", "");
            const Json factor = material.value("pbrMetallicRoughness", Json::object())
                                    .value("baseColorFactor", Json::array());
            for (int k = 0; k < 3 && k < int(factor.size()); ++k)
                out.colour[k] = std::sqrt(factor[k].get<float>());
        }
        return out;
    }

private:
    void findChunks() {
        if (bytes_.size() < 20 || bytes_.compare(0, 4, "glTF") != 0 || word(bytes_, 4) != 2)
            throw Broken{"it is no GLB of version 2"};
        if (word(bytes_, 8) != bytes_.size()) throw Broken{"its length is not what it says"};
        for (std::size_t at = 12; at + 8 <= bytes_.size();) {
            const std::size_t length = word(bytes_, at), kind = word(bytes_, at + 4);
            if (length > bytes_.size() - at - 8) throw Broken{"a chunk is cut off"};
            if (kind == 0x4e4f534a) root_ = Json::parse(bytes_.substr(at + 8, length), nullptr, false);
            if (kind == 0x004e4942) binary_ = {at + 8, length};
            at += 8 + length;
        }
        if (!root_.is_object()) throw Broken{"its description is not readable"};
    }
    const Json& list(const char* key) const {
        static const Json empty = Json::array();
        const auto found = root_.find(key);
        return found != root_.end() && found->is_array() ? *found : empty;
    }
    static std::size_t number(const Json& json, const char* key) {
        const auto found = json.find(key);
        if (found == json.end() || !found->is_number_unsigned())
            throw Broken{fmt::format("\"{}\" is no number", key)};
        return found->get<std::size_t>();
    }

    /// Start, stride and count of an accessor whose elements are `size` bytes.
    struct View {
        const char* start;
        std::size_t stride, count;
    };
    View view(std::size_t index, std::size_t size) const {
        const Json &accessors = list("accessors"), &views = list("bufferViews");
        if (index >= accessors.size()) throw Broken{"an accessor is not there"};
        const Json& accessor = accessors[index];
        const std::size_t which = number(accessor, "bufferView");
        if (which >= views.size()) throw Broken{"a buffer view is not there"};
        const Json& own = views[which];
        const std::size_t count = number(accessor, "count"), stride = own.value("byteStride", size);
        const std::size_t viewOffset = own.value("byteOffset", std::size_t(0)),
                          ownOffset = accessor.value("byteOffset", std::size_t(0)), all = binary_.second;
        // Each is compared by itself, for sums of absurd numbers come out small again.
        const bool within =
            count <= all && viewOffset <= all && ownOffset <= all - viewOffset && stride <= all &&
            (count == 0 || (size <= all - viewOffset - ownOffset &&
                            (count == 1 || stride <= (all - viewOffset - ownOffset - size) / (count - 1))));
        if (!within) throw Broken{"an accessor reaches beyond the data"};
        return {bytes_.data() + binary_.first + viewOffset + ownOffset, stride, count};
    }
    template <class T>
    std::vector<T> vectors(const Json& attributes, const char* key) const {
        std::vector<T> out;
        if (!attributes.contains(key)) return out;
        const std::size_t index = number(attributes, key);
        if (index < list("accessors").size() && list("accessors")[index].value("componentType", 0) != 5126)
            throw Broken{"the site reads plain floats only"};
        const View data = view(index, sizeof(T));
        out.resize(data.count);
        for (std::size_t i = 0; i < data.count; ++i)
            std::memcpy(&out[i], data.start + i * data.stride, sizeof(T));
        return out;
    }
    void addPrimitive(world::Shape& shape, const Json& primitive) {
        if (primitive.value("mode", 4) != 4) throw Broken{"the site reads triangles only"};
        const Json& attributes = primitive.at("attributes");
        const auto base = static_cast<std::uint32_t>(shape.positions.size());
        const auto positions = vectors<glm::vec3>(attributes, "POSITION");
        auto normals = vectors<glm::vec3>(attributes, "NORMAL");
        auto uvs = vectors<glm::vec2>(attributes, "TEXCOORD_0");
        if (normals.size() != positions.size()) normals.assign(positions.size(), glm::vec3(0, 1, 0));
        if (uvs.size() != positions.size()) uvs.assign(positions.size(), glm::vec2(0));
        shape.positions.insert(shape.positions.end(), positions.begin(), positions.end());
        shape.normals.insert(shape.normals.end(), normals.begin(), normals.end());
        shape.uvs.insert(shape.uvs.end(), uvs.begin(), uvs.end());
        const std::size_t accessor = number(primitive, "indices");
        if (accessor >= list("accessors").size()) throw Broken{"an accessor is not there"};
        const int kind = list("accessors")[accessor].value("componentType", 0);
        const std::size_t size = kind == 5125 ? 4 : kind == 5123 ? 2 : kind == 5121 ? 1 : 0;
        if (size == 0) throw Broken{"indices are of an unknown sort"};
        const View data = view(accessor, size);
        for (std::size_t i = 0; i < data.count; ++i) {
            std::uint32_t index = 0; // little endian, as the format
            std::memcpy(&index, data.start + i * data.stride, size);
            if (index >= positions.size()) throw Broken{"an index is out of range"};
            shape.indices.push_back(base + index);
        }
    }

    const std::string& bytes_;
    Json root_;
    std::pair<std::size_t, std::size_t> binary_{0, 0};
};

} // namespace

GlbFile readGlbFile(const std::string& bytes) {
    GlbFile failed;
    try {
        return GlbReader(bytes).read();
    } catch (const Broken& broken) {
        failed.problem = broken.why;
    } catch (const Json::exception&) {
        failed.problem = "its description has another form than the standard's";
    }
    return failed;
}

} // namespace zl::standins::site
