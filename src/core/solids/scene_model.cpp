#include "core/solids/scene_model.h"

#include "core/base/error.h"
#include "core/geometry/normals.h"
#include "core/solids/solid_mesh.h"
#include "core/texture/colour_transfer.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>
#include <set>

namespace zl::solids {

namespace {

/// How rough and how metallic what something is made of is, and how much of it is seen through.
struct Surface {
    float roughness, metalness, opacity;
};
constexpr Surface surfaces[] = {{0.7f, 0, 1},  {0.8f, 0, 1},     {0.9f, 0, 1},
                                {0.35f, 1, 1}, {0.1f, 0, 0.35f}, {1, 0, 1}};

/// Two looks that are alike say the same.
std::string wordsOf(const Look& look) {
    const UvPlacement& p = look.placement;
    return fmt::format("{} {} {} {} {} {} {} {} {} {} {}", int(look.stuff), look.colour.r, look.colour.g,
                       look.colour.b, look.glow, p.offset.x, p.offset.y, p.scale.x, p.scale.y, p.turn,
                       look.picture);
}

class Builder {
public:
    Builder(Scene scene, const std::string& name, const Pictures& pictures, bool lit) : pictures_(pictures) {
        shown_.lit = lit;
        demandScene(scene);
        if (scene.solids.empty()) throw Error("no solid is in it yet", {}, "Put one down in the view.");
        out_.name = name, out_.format = "solids";
        shown_.scene = std::move(scene);
    }

    Model take() {
        addGroups();
        for (const auto& [number, solid] : shown_.scene.solids) addSolid(number, solid);
        out_.frame = {unitNamed("m"), Up::Y, false, false};
        out_.headingKnown = true;
        out_.solids = std::make_shared<const Shown>(std::move(shown_));
        return std::move(out_);
    }

private:
    /// Outer ones first, as nodes have their parents before them.
    void addGroups() {
        const auto within = shown_.scene.groupsWithin();
        std::vector<Number> open;
        const auto openThose = [&](Number in) {
            if (const auto found = within.find(in); found != within.end())
                open.insert(open.end(), found->second.rbegin(), found->second.rend());
        };
        openThose(0);
        while (!open.empty()) {
            const Number number = open.back();
            open.pop_back();
            const Group& group = shown_.scene.groups.at(number);
            nodes_[number] = int(out_.nodes.size());
            Node node;
            node.name = group.name.empty() ? fmt::format("group {}", number) : group.name;
            if (group.within != 0) node.parent = nodes_.at(group.within);
            out_.nodes.push_back(std::move(node));
            openThose(number);
        }
    }

    void addSolid(Number number, const Solid& solid) {
        SolidMesh made = meshOf(solid.shape, shown_.scene.sides);
        std::vector<std::uint32_t> order(made.faces.size());
        std::iota(order.begin(), order.end(), 0u);
        std::ranges::stable_sort(order, {}, [&](std::uint32_t t) { return made.faces[t]; });
        Part part{number, nullptr, {}};
        Mesh& mesh = made.mesh;
        std::vector<std::uint32_t> indices;
        std::vector<MaterialRun> runs;
        for (const std::uint32_t t : order) {
            if (part.faces.empty() || part.faces.back() != made.faces[t]) {
                part.faces.push_back(made.faces[t]);
                runs.push_back({std::uint32_t(indices.size() / 3), 0, material(solid.lookOf(made.faces[t]))});
            }
            for (int k = 0; k < 3; ++k) indices.push_back(mesh.indices[3 * std::size_t(t) + std::size_t(k)]);
            ++runs.back().triangleCount;
        }
        mesh.indices = std::move(indices);
        constexpr double crease = 0.6; // radians: more than a round side's of the fewest edges
        const std::string called = solid.name.empty() ? fmt::format("solid {}", number) : solid.name;
        Mesh smooth = geometry::withNormals(mesh, std::max(crease, 7 / double(shown_.scene.sides)));
        smooth.name = called;
        smooth.runs = std::move(runs); // not before: what is alike would become one run
        part.mesh = std::make_shared<const Mesh>(std::move(smooth));
        Node node;
        node.name = called;
        node.parent = solid.group != 0 ? nodes_.at(solid.group) : -1;
        node.local = placeOf(solid.at, solid.turn);
        node.mesh = int(out_.meshes.size());
        out_.meshes.push_back(part.mesh);
        out_.nodes.push_back(std::move(node));
        shown_.parts.push_back(std::move(part));
    }

    int material(const Look& look) {
        const auto [known, isNew] = looks_.try_emplace(wordsOf(look), int(out_.materials.size()));
        if (!isNew) return known->second;
        const int image = imageOf(look.picture);
        if (shown_.lit && image >= 0) {
            out_.materials.push_back(litMaterial(fmt::format("lit {}", looks_.size()), image));
            out_.materials.back().picture(PictureRole::Emission).placement = look.placement;
            return known->second;
        }
        const Surface& surface = surfaces[std::size_t(look.stuff)];
        Material out;
        out.name = fmt::format("{} {}", stuffNames[std::size_t(look.stuff)], looks_.size());
        const glm::vec3 light = texture::fromSrgb(look.colour);
        out.baseColour = glm::vec4(light, surface.opacity);
        out.roughness = surface.roughness, out.metalness = surface.metalness;
        out.emission = light * look.glow;
        if (surface.opacity < 1) out.alpha = Material::Alpha::Blend;
        if (image >= 0) {
            PictureUse use;
            use.image = image, use.placement = look.placement;
            out.picture(PictureRole::Colour) = use;
        }
        out_.materials.push_back(std::move(out));
        return known->second;
    }

    int imageOf(const std::string& name) {
        if (name.empty()) return -1;
        if (const auto known = images_.find(name); known != images_.end()) return known->second;
        const auto found = pictures_.find(name);
        int& index = images_[name] = -1;
        if (found == pictures_.end()) {
            out_.warnings.push_back("The picture " + name + " is not there");
            return -1;
        }
        index = int(out_.images.size());
        out_.images.push_back(found->second);
        return index;
    }

    const Pictures& pictures_;
    Model out_;
    Shown shown_;
    std::map<Number, int> nodes_;      ///< of groups
    std::map<std::string, int> looks_; ///< the material of each
    std::map<std::string, int> images_;
};

} // namespace

Model modelOf(Scene scene, const std::string& name, const Pictures& pictures, bool lit) {
    return Builder(std::move(scene), name, pictures, lit).take();
}

Material litMaterial(const std::string& name, int image) {
    Material out;
    out.name = name;
    out.baseColour = {0, 0, 0, 1};
    out.emission = glm::vec3(1);
    out.roughness = 1;
    PictureUse use;
    use.image = image;
    out.picture(PictureRole::Emission) = use;
    return out;
}

std::vector<int> nodesOf(const Model& model) {
    return shownNodes(model);
}

const Shown* shownBy(const Model& model) {
    if (!model.solids) return nullptr;
    const std::vector<int> nodes = nodesOf(model);
    const std::vector<Part>& parts = model.solids->parts;
    if (nodes.size() != parts.size()) return nullptr;
    for (std::size_t i = 0; i < nodes.size(); ++i)
        if (model.meshes[std::size_t(model.nodes[std::size_t(nodes[i])].mesh)] != parts[i].mesh)
            return nullptr;
    return model.solids.get();
}

std::vector<std::string> picturesOf(const Scene& scene) {
    std::set<std::string> names;
    const auto add = [&](const Look& look) {
        if (!look.picture.empty()) names.insert(look.picture);
    };
    for (const auto& [number, solid] : scene.solids) {
        add(solid.look);
        for (const auto& [face, look] : solid.faces) add(look);
    }
    return {names.begin(), names.end()};
}

} // namespace zl::solids
