#include "standins/files/formats/readers.h"

#include "standins/world/glb_tree.h"

namespace fs = std::filesystem;

namespace zl::standins::files {

Read readGlb(const fs::path& folder, const std::string& path) {
    Read out{path};
    const std::string bytes = wholeOf(folder / path);
    world::GlbTree tree = world::readGlbTree(bytes);
    out.problem = tree.problem;
    out.metres = 1, out.up = "Y"; // by the standard
    std::vector<std::shared_ptr<const std::string>> inside;
    for (auto& material : tree.materials) {
        out.materials.push_back(material.name);
        if (!material.pictureFile.empty()) out.names.insert(beside(path, material.pictureFile));
        inside.push_back(material.pictureBytes.empty()
                             ? nullptr
                             : std::make_shared<const std::string>(std::move(material.pictureBytes)));
    }
    for (world::GlbNode& node : tree.nodes) {
        out.nodes.push_back(node.name);
        for (world::GlbSurface& surface : node.surfaces) {
            Read::Object object{node.name, node.above < 0 ? "" : tree.nodes[std::size_t(node.above)].name, "",
                                std::move(surface.shape)};
            if (surface.material >= 0 && std::size_t(surface.material) < tree.materials.size()) {
                const auto& look = tree.materials[std::size_t(surface.material)];
                object.material = look.name, object.colour = look.colour;
                object.inside = inside[std::size_t(surface.material)];
                if (!look.pictureFile.empty()) object.picture = beside(path, look.pictureFile);
            }
            out.objects.push_back(std::move(object));
        }
    }
    return out;
}

} // namespace zl::standins::files
