#include "core/formats/outfit_text.h"

#include <fmt/format.h>

#include <iterator>

namespace zl::formats {

namespace {

/// In quotation marks, with a backslash before those and backslashes; line breaks become blanks.
std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"' || c == '\\') out += '\\';
        out += static_cast<unsigned char>(c) < ' ' ? ' ' : c;
    }
    return out + '"';
}

class OutfitText {
public:
    explicit OutfitText(const Model& model) : model_(model), world_(worldMatrices(model)) {}

    std::string text() {
        put("outfit 1\n");
        for (const Skin& skin : model_.skins)
            for (const int joint : skin.joints) bone(joint);
        for (const int node : shownNodes(model_)) object(std::size_t(node));
        return std::move(out_);
    }

private:
    template <class... Values>
    void put(fmt::format_string<Values...> form, Values&&... values) {
        fmt::format_to(std::back_inserter(out_), form, std::forward<Values>(values)...);
    }
    /// A joint and the one above it, with its place at rest; each once.
    void bone(int joint) {
        if (std::ranges::find(bones_, joint) != bones_.end()) return;
        bones_.push_back(joint);
        const Node& node = model_.nodes[std::size_t(joint)];
        const auto above = std::ranges::find(bones_, node.parent);
        const auto& at = world_[std::size_t(joint)][3];
        put("bone {} {} {} {} {}\n", quoted(node.name),
            above == bones_.end() ? -1 : int(above - bones_.begin()), float(at.x), float(at.y), float(at.z));
    }
    void object(std::size_t n) {
        const Node& node = model_.nodes[n];
        const Mesh& mesh = *model_.meshes[std::size_t(node.mesh)];
        put("object {}\n", quoted(node.name));
        const int worn = mesh.runs.empty() ? -1 : mesh.runs[0].material;
        if (worn >= 0) material(model_.materials[std::size_t(worn)]);
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) corner(node, mesh, v);
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
            put("t {} {} {}\n", mesh.indices[3 * t], mesh.indices[3 * t + 1], mesh.indices[3 * t + 2]);
    }
    void material(const Material& material) {
        put("material {} {} {} {}\n", quoted(material.name), material.baseColour.r, material.baseColour.g,
            material.baseColour.b);
        for (const auto& [name, value] : material.settings) {
            put("set {} ", quoted(name));
            if (const auto* text = std::get_if<std::string>(&value))
                put("{}\n", quoted(*text));
            else if (const auto* flag = std::get_if<bool>(&value))
                put("{}\n", *flag ? 1 : 0);
            else
                put("{}\n", std::get<double>(value));
        }
    }
    void corner(const Node& node, const Mesh& mesh, std::size_t v) {
        const glm::vec3& p = mesh.positions[v];
        const glm::vec3 n = mesh.normals.empty() ? glm::vec3(0, 0, 1) : mesh.normals[v];
        const glm::vec2 uv = mesh.uvSets.empty() ? glm::vec2(0) : mesh.uvSets[0][v];
        put("v {} {} {} {} {} {} {} {}", p.x, p.y, p.z, n.x, n.y, n.z, uv.x, uv.y);
        if (node.skin >= 0 && !mesh.weights.empty())
            for (int k = 0; k < 4; ++k) {
                if (mesh.weights[v][k] <= 0) continue;
                const int joint = model_.skins[std::size_t(node.skin)].joints[mesh.joints[v][k]];
                put(" {} {}", std::ranges::find(bones_, joint) - bones_.begin(), mesh.weights[v][k]);
            }
        put("\n");
    }

    const Model& model_;
    std::vector<glm::dmat4> world_;
    std::vector<int> bones_;
    std::string out_;
};

} // namespace

OutFile outfitText(const Model& model, const std::string& name) {
    return {name + ".outfit", OutfitText(model).text()};
}

} // namespace zl::formats
