// 3MF (3D Manufacturing Format, core specification 1.3): a zip whose model says its unit, objects of
// triangles, objects that are put together of others, and which of them stand in the scene.
#include "standins/files/formats/readers.h"
#include "standins/world/packed_files.h"

#include "core/base/plain_number.h"

#include <pugixml.hpp>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

double metresOf(const std::string& unit) {
    static const std::map<std::string, double> known{{"micron", 1e-6},     {"millimeter", 1e-3},
                                                     {"centimeter", 1e-2}, {"inch", 0.0254},
                                                     {"foot", 0.3048},     {"meter", 1.0}};
    const auto found = known.find(unit.empty() ? "millimeter" : unit);
    if (found == known.end()) throw Broken{"its unit is none"};
    return found->second;
}

/// Twelve numbers, row by row, for points as rows; none for what stands where it is.
glm::mat4 itemPlace(pugi::xml_node node) {
    glm::mat4 out(1.0f);
    std::string_view rest = node.attribute("transform").value();
    if (rest.empty()) return out;
    for (int row = 0; row < 4; ++row)
        for (int k = 0; k < 3; ++k) {
            const auto value = plainNumber<float>(rest, &rest);
            if (!value) throw Broken{"a place is incomplete"};
            out[row][k] = *value;
        }
    return out;
}

float numberOf(pugi::xml_node node, const char* name) {
    const auto value = onlyNumber<float>(node.attribute(name).value());
    if (!value) throw Broken{"a corner is not three numbers"};
    return *value;
}

class Reader3mf {
public:
    static constexpr std::size_t mostBytes = std::size_t(1) << 28, mostPlaced = 20'000;
    static constexpr int deepest = 32;

    Reader3mf(pugi::xml_node root, Read& out) : out_(out) {
        out_.metres = metresOf(root.attribute("unit").value());
        out_.up = "Z";
        const auto resources = root.child("resources");
        for (const auto group : resources.children("basematerials")) {
            auto& bases = bases_[group.attribute("id").value()];
            for (const auto base : group.children("base")) {
                bases.push_back(
                    {base.attribute("name").value(), colourOf(base.attribute("displaycolor").value())});
                addMaterial(out_, bases.back().name);
            }
        }
        for (const auto object : resources.children("object"))
            objects_[object.attribute("id").value()] = object;
        for (const auto item : root.child("build").children("item"))
            put(item.attribute("objectid").value(), itemPlace(item), 0);
    }

private:
    struct Base {
        std::string name;
        glm::vec3 colour;
    };

    static glm::vec3 colourOf(std::string_view word) {
        glm::vec3 out(0.8f);
        for (int k = 0; k < 3 && word.size() >= 7; ++k) {
            int value = 0;
            std::from_chars(word.data() + 1 + 2 * k, word.data() + 3 + 2 * k, value, 16);
            out[k] = float(value) / 255;
        }
        return out;
    }

    void put(const std::string& id, const glm::mat4& place, int depth) {
        const auto object = objects_.find(id);
        if (object == objects_.end()) throw Broken{"an object is not there"};
        if (depth > deepest || ++placed_ > mostPlaced)
            throw Broken{"objects are made of one another without end"};
        for (const auto part : object->second.child("components").children("component"))
            put(part.attribute("objectid").value(), place * itemPlace(part), depth + 1);
        if (const auto mesh = object->second.child("mesh")) add(object->second, mesh, place);
    }

    void add(pugi::xml_node object, pugi::xml_node mesh, const glm::mat4& place) {
        world::Shape shape;
        for (const auto vertex : mesh.child("vertices").children("vertex"))
            shape.positions.emplace_back(
                place * glm::vec4(numberOf(vertex, "x"), numberOf(vertex, "y"), numberOf(vertex, "z"), 1));
        shape.uvs.resize(shape.positions.size());
        for (const auto triangle : mesh.child("triangles").children("triangle"))
            for (const char* corner : {"v1", "v2", "v3"}) {
                const auto index = onlyNumber<std::uint32_t>(triangle.attribute(corner).value());
                if (!index || *index >= shape.positions.size())
                    throw Broken{"a triangle refers to a corner that is not there"};
                shape.indices.push_back(*index);
            }
        corners_ += shape.positions.size() + shape.indices.size();
        if (corners_ > mostCornersShown) throw Broken{"it shows too much"};
        world::addMissingNormals(shape);
        const std::string name = object.attribute("name").value();
        addObject(out_, name.empty() ? object.attribute("id").value() : name, std::move(shape));
        const auto group = bases_.find(object.attribute("pid").value());
        if (const std::size_t which = object.attribute("pindex").as_uint();
            group != bases_.end() && which < group->second.size()) {
            out_.objects.back().material = group->second[which].name;
            out_.objects.back().colour = group->second[which].colour;
        }
    }

    Read& out_;
    std::map<std::string, pugi::xml_node> objects_;  ///< by id
    std::map<std::string, std::vector<Base>> bases_; ///< by the id of their group
    std::size_t placed_ = 0, corners_ = 0;
};

} // namespace

Read read3mf(const fs::path& folder, const std::string& path) {
    Read out{path};
    const world::PackedFiles packed = world::readZip(wholeOf(folder / path), Reader3mf::mostBytes);
    const auto model = std::ranges::find_if(
        packed.entries, [](const auto& entry) { return entry.first.ends_with(".model"); });
    out.problem = packed.problem;
    if (packed.problem.empty() && model == packed.entries.end()) out.problem = "it holds no model";
    if (!out.problem.empty()) return out;
    pugi::xml_document document;
    if (!document.load_buffer(model->second.data(), model->second.size())) {
        out.problem = "its model is not XML";
        return out;
    }
    try {
        Reader3mf(document.child("model"), out);
    } catch (const Broken& broken) {
        out.problem = broken.why;
    }
    return out;
}

} // namespace zl::standins::files
