// A reader of COLLADA 1.4 of the stand-ins' own: triangles, colour pictures, and every transform looked for.
#include "standins/world/collada_file.h"

#include "core/base/plain_number.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>
#include <pugixml.hpp>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace zl::standins::world {

namespace {

struct Broken {
    std::string why;
};

std::vector<float> numbersIn(const char* text) {
    std::vector<float> out;
    for (std::string_view rest(text); const auto value = plainNumber<float>(rest, &rest);) {
        if (!std::isfinite(*value)) throw Broken{"a number is not finite"};
        out.push_back(*value);
    }
    return out;
}

/// "#id" without its mark.
std::string id(const char* url) {
    return *url == '#' ? url + 1 : url;
}

class ColladaReader {
public:
    ColladaFile read(const std::string& text) {
        pugi::xml_document document;
        if (const auto result = document.load_buffer(text.data(), text.size()); !result)
            throw Broken{fmt::format("it is not XML ({})", result.description())};
        root_ = document.child("COLLADA");
        if (!root_) throw Broken{"it is no COLLADA file"};
        const auto asset = root_.child("asset");
        out_.unitMetres =
            plainNumber<double>(asset.child("unit").attribute("meter").as_string("1")).value_or(0);
        out_.upAxis = asset.child("up_axis").text().as_string("Y_UP");
        for (const auto geometry : root_.child("library_geometries").children("geometry"))
            geometries_[geometry.attribute("id").value()] = geometry.child("mesh");
        const std::string scene =
            id(root_.child("scene").child("instance_visual_scene").attribute("url").value());
        const auto visual =
            root_.child("library_visual_scenes").find_child_by_attribute("visual_scene", "id", scene.c_str());
        if (!visual) throw Broken{"its scene is not there"};
        // A list, so that depth cannot overflow a stack.
        std::vector<std::pair<pugi::xml_node, glm::mat4>> open;
        for (const auto node : visual.children("node")) open.emplace_back(node, glm::mat4(1.0f));
        for (std::size_t i = 0; i < open.size(); ++i) {
            const glm::mat4 place = readNode(open[i].first, open[i].second);
            for (const auto child : open[i].first.children("node")) open.emplace_back(child, place);
        }
        return std::move(out_);
    }

private:
    /// How one of a node's transforms moves what is below it; nothing for one that is not worked out here or
    /// that lacks numbers.
    static std::optional<glm::mat4> moveOf(const std::string& kind, const std::vector<float>& values) {
        glm::mat4 out(1.0f);
        if (kind == "translate" && values.size() == 3)
            return glm::translate(out, {values[0], values[1], values[2]});
        if (kind == "scale" && values.size() == 3) return glm::scale(out, {values[0], values[1], values[2]});
        if (kind == "rotate" && values.size() == 4) {
            const glm::vec3 axis(values[0], values[1], values[2]);
            if (values[3] == 0) return out;
            if (glm::length(axis) > 0) return glm::rotate(out, glm::radians(values[3]), axis);
        }
        if (kind != "matrix" || values.size() != 16) return std::nullopt;
        for (int i = 0; i < 16; ++i) out[i % 4][i / 4] = values[std::size_t(i)]; // row by row
        return out;
    }

    /// Returns where what hangs below it stands.
    glm::mat4 readNode(pugi::xml_node node, glm::mat4 place) {
        const std::string name = node.attribute("name").value();
        bool moved = false;
        for (const auto child : node.children()) {
            const std::string kind = child.name();
            if (kind != "matrix" && kind != "translate" && kind != "rotate" && kind != "scale" &&
                kind != "lookat" && kind != "skew")
                continue;
            const auto move = moveOf(kind, numbersIn(child.text().get()));
            if (move) place = place * *move;
            moved |= move != glm::mat4(1.0f);
        }
        if (moved) out_.transformed.push_back(name);
        auto instance = node.child("instance_geometry");
        std::string shape = id(instance.attribute("url").value());
        if (const auto skinned = node.child("instance_controller"); !instance && skinned) {
            instance = skinned;
            shape = id(root_.child("library_controllers")
                           .find_child_by_attribute("controller", "id",
                                                    id(skinned.attribute("url").value()).c_str())
                           .child("skin")
                           .attribute("source")
                           .value()); // stands as it was bound
        }
        if (!instance) {
            out_.empty.push_back(name);
            return place;
        }
        const auto geometry = geometries_.find(shape);
        if (geometry == geometries_.end())
            throw Broken{fmt::format("the shape of \"{}\" is not there", name)};
        ColladaPart part{name, {}, {}, {}, glm::vec3(0.8f)};
        if (instance.name() == std::string("instance_geometry")) part.place = place;
        bool normals = true;
        const auto bound = instance.child("bind_material").child("technique_common");
        for (const auto triangles : geometry->second.children("triangles")) {
            const std::size_t first = part.shape.indices.size();
            normals &= addTriangles(part.shape, geometry->second, triangles);
            part.worn.push_back({first, part.shape.indices.size() - first,
                                 materialName(bound, triangles.attribute("material").value())});
        }
        if (!normals) part.shape.normals.clear();
        if (const auto material = bound.child("instance_material"))
            readMaterial(part, id(material.attribute("target").value()));
        out_.parts.push_back(std::move(part));
        return place;
    }

    /// What the material is called that a symbol stands for where it is bound.
    std::string materialName(pugi::xml_node bound, const char* symbol) const {
        const auto instance = bound.find_child_by_attribute("instance_material", "symbol", symbol);
        return root_.child("library_materials")
            .find_child_by_attribute("material", "id", id(instance.attribute("target").value()).c_str())
            .attribute("name")
            .value();
    }

    std::vector<float> source(pugi::xml_node mesh, std::string which) const {
        if (const auto vertices = mesh.find_child_by_attribute("vertices", "id", which.c_str()))
            which = id(vertices.find_child_by_attribute("input", "semantic", "POSITION")
                           .attribute("source")
                           .value());
        const auto found = mesh.find_child_by_attribute("source", "id", which.c_str());
        if (!found) throw Broken{fmt::format("the source \"{}\" is not there", which)};
        return numbersIn(found.child("float_array").text().get());
    }

    /// Returns whether they have normals; those that have none get zeros in their place.
    bool addTriangles(Shape& shape, pugi::xml_node mesh, pugi::xml_node triangles) const {
        struct Input {
            int offset = -1;
            std::vector<float> values;
        };
        Input position, normal, uv;
        int stride = 0;
        for (const auto input : triangles.children("input")) {
            const std::string semantic = input.attribute("semantic").value();
            const int offset = input.attribute("offset").as_int();
            if (offset < 0 || offset >= 32) throw Broken{"an input's offset is none"};
            stride = std::max(stride, offset + 1);
            Input* target = semantic == "VERTEX"     ? &position
                            : semantic == "NORMAL"   ? &normal
                            : semantic == "TEXCOORD" ? &uv
                                                     : nullptr;
            if (!target || target->offset >= 0) continue;
            *target = {offset, source(mesh, id(input.attribute("source").value()))};
        }
        if (position.offset < 0) throw Broken{"triangles have no corners"};
        const auto indices = numbersIn(triangles.child("p").text().get());
        const std::size_t corners = indices.size() / std::size_t(stride);
        if (corners % 3 != 0) throw Broken{"a triangle is not whole"};
        for (std::size_t c = 0; c < corners; ++c) {
            const auto at = [&](const Input& input, std::size_t width) -> const float* {
                if (input.offset < 0) return nullptr;
                const float index = indices[c * std::size_t(stride) + std::size_t(input.offset)];
                if (!(index >= 0 && index < 1e9f) || (std::size_t(index) + 1) * width > input.values.size())
                    throw Broken{"an index is out of range"};
                return &input.values[std::size_t(index) * width];
            };
            const float *p = at(position, 3), *n = at(normal, 3), *t = at(uv, 2);
            shape.positions.emplace_back(p[0], p[1], p[2]);
            shape.normals.push_back(n ? glm::vec3(n[0], n[1], n[2]) : glm::vec3(0));
            shape.uvs.push_back(t ? glm::vec2(t[0], 1 - t[1]) : glm::vec2(0));
            shape.indices.push_back(static_cast<std::uint32_t>(shape.positions.size() - 1));
        }
        return normal.offset >= 0;
    }

    void readMaterial(ColladaPart& part, const std::string& which) const {
        const auto material =
            root_.child("library_materials").find_child_by_attribute("material", "id", which.c_str());
        const std::string effectId = id(material.child("instance_effect").attribute("url").value());
        const auto profile = root_.child("library_effects")
                                 .find_child_by_attribute("effect", "id", effectId.c_str())
                                 .child("profile_COMMON");
        const auto diffuse = profile.child("technique").first_child().child("diffuse");
        if (const auto colour = diffuse.child("color")) {
            const auto values = numbersIn(colour.text().get());
            for (int k = 0; k < 3 && k < int(values.size()); ++k)
                part.colour[k] = std::sqrt(values[std::size_t(k)]);
        }
        for (const auto param : profile.children("newparam"))
            if (const auto image = param.child("surface").child("init_from"))
                part.picture = root_.child("library_images")
                                   .find_child_by_attribute("image", "id", image.text().get())
                                   .child("init_from")
                                   .text()
                                   .get();
    }

    pugi::xml_node root_;
    std::map<std::string, pugi::xml_node> geometries_;
    ColladaFile out_;
};

} // namespace

ColladaFile readColladaFile(const std::string& text) {
    try {
        return ColladaReader().read(text);
    } catch (const Broken& broken) {
        ColladaFile failed;
        failed.problem = broken.why;
        return failed;
    }
}

} // namespace zl::standins::world
