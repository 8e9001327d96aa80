// The site's way to read a GLB (glTF 2.0): triangles of plain accessors, nothing else.
#include "standins/site/glb_file.h"

#include "standins/world/glb_data.h"

#include <set>

namespace zl::standins::site {

namespace {

using world::BrokenGlb;
using world::GlbData;
using Json = GlbData::Json;

void addPrimitive(const GlbData& data, world::Shape& shape, const Json& primitive) {
    if (primitive.value("mode", 4) != 4) throw BrokenGlb{"the site reads triangles only"};
    const Json& attributes = primitive.at("attributes");
    const auto base = static_cast<std::uint32_t>(shape.positions.size());
    const auto positions = data.vectors<glm::vec3>(attributes, "POSITION");
    auto normals = data.vectors<glm::vec3>(attributes, "NORMAL");
    auto uvs = data.vectors<glm::vec2>(attributes, "TEXCOORD_0");
    if (normals.size() != positions.size()) normals.assign(positions.size(), glm::vec3(0, 1, 0));
    if (uvs.size() != positions.size()) uvs.assign(positions.size(), glm::vec2(0));
    shape.positions.insert(shape.positions.end(), positions.begin(), positions.end());
    shape.normals.insert(shape.normals.end(), normals.begin(), normals.end());
    shape.uvs.insert(shape.uvs.end(), uvs.begin(), uvs.end());
    for (const std::uint32_t index : data.wholes(GlbData::number(primitive, "indices"), 1)) {
        if (index >= positions.size()) throw BrokenGlb{"an index is out of range"};
        shape.indices.push_back(base + index);
    }
}

GlbFile read(const std::string& bytes) {
    const GlbData data(bytes);
    GlbFile out;
    const Json &nodes = data.list("nodes"), &meshes = data.list("meshes"),
               &materials = data.list("materials");
    out.nodes = nodes.size();
    std::set<std::size_t> used;
    for (const Json& node : nodes) {
        if (!node.contains("mesh")) continue;
        ++out.meshNodes;
        out.objectName = node.value("name", "");
        for (const char* key : {"matrix", "translation", "rotation", "scale"})
            out.carriesTransform |= node.contains(key);
        const std::size_t mesh = GlbData::number(node, "mesh");
        if (mesh >= meshes.size()) throw BrokenGlb{"a node shows a mesh that is not there"};
        for (const Json& primitive : meshes[mesh].at("primitives")) {
            addPrimitive(data, out.shape, primitive);
            if (!primitive.contains("material")) continue;
            const std::size_t material = GlbData::number(primitive, "material");
            if (material >= materials.size()) throw BrokenGlb{"a material is not there"};
            used.insert(material);
        }
    }
    out.materials = used.size();
    if (!used.empty()) {
        const auto look = data.look(*used.begin());
        out.materialName = look.name;
        out.colour = look.colour;
    }
    return out;
}

} // namespace

GlbFile readGlbFile(const std::string& bytes) {
    GlbFile failed;
    try {
        return read(bytes);
    } catch (const BrokenGlb& broken) {
        failed.problem = broken.why;
    } catch (const Json::exception&) {
        failed.problem = "its description has another form than the standard's";
    }
    return failed;
}

} // namespace zl::standins::site
