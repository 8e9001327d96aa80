// A GLB (glTF 2.0) as a tree of nodes: triangles of plain accessors, each material's look.
#include "standins/world/glb_tree.h"

#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <cmath>

namespace zl::standins::world {

namespace {

using Json = GlbData::Json;

constexpr std::size_t mostNodes = 20000;

class TreeReader {
public:
    explicit TreeReader(const std::string& bytes) : data_(bytes) {}

    GlbTree read() {
        const Json& nodes = data_.list("nodes");
        if (nodes.size() > mostNodes) throw BrokenGlb{"it has too many nodes"};
        readMaterials();
        std::vector<char> isBelow(nodes.size(), 0);
        for (const Json& node : nodes)
            for (const std::size_t child : childrenOf(node)) {
                if (isBelow[child]) throw BrokenGlb{"a node hangs on two others"};
                isBelow[child] = 1;
            }
        // From the roots down; what hangs in a ring is never reached and not there.
        std::vector<std::pair<std::size_t, int>> next;
        for (std::size_t n = nodes.size(); n-- > 0;)
            if (!isBelow[n]) next.emplace_back(n, -1);
        while (!next.empty()) {
            const auto [node, above] = next.back();
            next.pop_back();
            const int own = int(out_.nodes.size());
            addNode(nodes[node], above);
            for (const std::size_t child : childrenOf(nodes[node])) next.emplace_back(child, own);
        }
        return std::move(out_);
    }

private:
    std::vector<std::size_t> childrenOf(const Json& node) const {
        std::vector<std::size_t> out;
        for (const Json& child : node.value("children", Json::array())) {
            if (!child.is_number_unsigned() || child.get<std::size_t>() >= data_.list("nodes").size())
                throw BrokenGlb{"a node's child is not there"};
            out.push_back(child.get<std::size_t>());
        }
        return out;
    }

    static std::vector<float> floatsOf(const Json& node, const char* key, std::size_t count) {
        auto out = node.value(key, std::vector<float>());
        if (!out.empty() && out.size() != count)
            throw BrokenGlb{fmt::format("a node's {} is incomplete", key)};
        for (const float v : out)
            if (!std::isfinite(v)) throw BrokenGlb{"a node's place is no number"};
        return out;
    }

    static glm::mat4 localOf(const Json& node) {
        if (const auto m = floatsOf(node, "matrix", 16); !m.empty()) {
            glm::mat4 out;
            for (int i = 0; i < 16; ++i) out[i / 4][i % 4] = m[std::size_t(i)];
            return out;
        }
        glm::mat4 out(1.0f);
        if (const auto t = floatsOf(node, "translation", 3); !t.empty())
            out = glm::translate(out, {t[0], t[1], t[2]});
        if (const auto r = floatsOf(node, "rotation", 4); !r.empty())
            out *= glm::mat4_cast(glm::quat(r[3], r[0], r[1], r[2]));
        if (const auto s = floatsOf(node, "scale", 3); !s.empty()) out = glm::scale(out, {s[0], s[1], s[2]});
        return out;
    }

    void addNode(const Json& json, int above) {
        GlbNode node;
        node.name = json.value("name", "");
        node.above = above;
        node.local = localOf(json);
        node.place = above < 0 ? node.local : out_.nodes[std::size_t(above)].place * node.local;
        if (json.contains("mesh")) {
            const std::size_t mesh = GlbData::number(json, "mesh");
            if (mesh >= data_.list("meshes").size()) throw BrokenGlb{"a node shows a mesh that is not there"};
            for (const Json& primitive : data_.list("meshes")[mesh].at("primitives"))
                addSurface(node, primitive);
        }
        out_.nodes.push_back(std::move(node));
    }

    void addSurface(GlbNode& node, const Json& primitive) {
        if (primitive.value("mode", 4) != 4) throw BrokenGlb{"the game reads triangles only"};
        const Json& attributes = primitive.at("attributes");
        GlbSurface out;
        Shape& shape = out.shape;
        shape.positions = data_.vectors<glm::vec3>(attributes, "POSITION");
        shape.normals = data_.vectors<glm::vec3>(attributes, "NORMAL");
        shape.uvs = data_.vectors<glm::vec2>(attributes, "TEXCOORD_0");
        if (shape.normals.size() != shape.positions.size()) shape.normals.clear();
        if (shape.uvs.size() != shape.positions.size())
            shape.uvs.assign(shape.positions.size(), glm::vec2(0));
        for (glm::vec3& p : shape.positions) p = glm::vec3(node.place * glm::vec4(p, 1));
        for (glm::vec3& n : shape.normals) n = glm::normalize(glm::mat3(node.place) * n);
        shape.indices = data_.wholes(GlbData::number(primitive, "indices"), 1);
        for (const std::uint32_t index : shape.indices)
            if (index >= shape.positions.size()) throw BrokenGlb{"an index is out of range"};
        node.triangles += shape.indices.size() / 3;
        addMissingNormals(shape);
        if (primitive.contains("material")) {
            const std::size_t material = GlbData::number(primitive, "material");
            if (material >= out_.materials.size()) throw BrokenGlb{"a material is not there"};
            out.material = int(material);
        }
        node.surfaces.push_back(std::move(out));
    }

    void readMaterials() {
        for (std::size_t m = 0; m < data_.list("materials").size(); ++m)
            out_.materials.push_back(data_.look(m));
    }

    GlbData data_;
    GlbTree out_;
};

} // namespace

GlbTree readGlbTree(const std::string& bytes) {
    GlbTree failed;
    try {
        return TreeReader(bytes).read();
    } catch (const BrokenGlb& broken) {
        failed.problem = broken.why;
    } catch (const Json::exception&) {
        failed.problem = "its description has another form than the standard's";
    }
    return failed;
}

} // namespace zl::standins::world
