// Files of others' programs, by the product's own reader: faces of many corners, nodes that are turned,
// packed numbers, formats that nothing here is delivered in.
#include "standins/files/formats/readers.h"

#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/texture/colour_transfer.h"

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

world::Shape shapeOf(const Mesh& mesh) {
    world::Shape out{mesh.positions, mesh.normals,
                     mesh.uvSets.empty() ? std::vector<glm::vec2>(mesh.positions.size()) : mesh.uvSets[0],
                     mesh.indices};
    world::addMissingNormals(out);
    return out;
}

} // namespace

Read readForeign(const fs::path& folder, const std::string& path) {
    Read out{path};
    Model model;
    try {
        model = formats::readModel(folder / path);
    } catch (const std::exception& problem) {
        out.problem = problem.what();
        return out;
    }
    model.placement = glm::dmat4(1.0); // in the file's own numbers and axes
    if (!model.frame.unitAssumed) out.metres = model.frame.unit.metres;
    if (!model.frame.upAssumed) out.up = model.frame.up == Up::Y ? "Y" : "Z";
    for (const Node& node : model.nodes) out.nodes.push_back(node.name);
    for (const Material& material : model.materials) addMaterial(out, material.name);
    std::map<int, std::shared_ptr<const std::string>> pictures;
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        const Node& shown = model.nodes[std::size_t(node)];
        Read::Object object{shown.name, shown.parent < 0 ? "" : model.nodes[std::size_t(shown.parent)].name,
                            "", shapeOf(geometry::transformed(mesh, toWorld))};
        const auto worn = std::ranges::find_if(
            mesh.runs, [](const MaterialRun& run) { return run.triangleCount > 0 && run.material >= 0; });
        if (worn != mesh.runs.end()) {
            const Material& material = model.materials[std::size_t(worn->material)];
            object.material = material.name;
            for (int k = 0; k < 3; ++k) object.colour[k] = texture::toSrgb(material.baseColour[k]);
            if (const int image = material.image(PictureRole::Colour); image >= 0) {
                auto& held = pictures[image];
                if (!held)
                    held = std::make_shared<const std::string>(model.images[std::size_t(image)]->encoded);
                object.inside = held;
            }
        }
        out.objects.push_back(std::move(object));
    });
    return out;
}

} // namespace zl::standins::files
