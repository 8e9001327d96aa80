#include "core/learn/file_facts.h"

#include "core/base/letters.h"
#include "core/formats/format.h"
#include "core/geometry/clean.h"
#include "core/geometry/foot_share.h"
#include "core/geometry/heading.h"
#include "core/model/image.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"

#include <algorithm>

namespace zl::learn {

namespace {

/// Triangles up to which slivers are counted and a front is looked for: beyond, both take too long for what
/// they say of a limit.
constexpr std::size_t mostLookedTriangles = 200'000;
constexpr std::size_t mostNames = 2'000;

/// The file's numbers out of world space: as it was read, a model's placement is what its reader put there.
glm::dmat4 toFile(const Model& model) {
    return glm::inverse(model.placement);
}

bool isBodyName(std::string_view name) {
    const std::string small = lowerCase(name);
    static constexpr std::string_view words[] = {"collision", "collider", "-col",  "_col",   ".col",
                                                 "physics",   "_phys",    "-phys", "hitbox", "_hull"};
    return std::ranges::any_of(words, [&](std::string_view word) {
        const std::size_t at = small.find(word);
        return at != std::string::npos && (word.size() > 5 || at + word.size() == small.size());
    });
}

std::size_t keysOf(const Model& model) {
    std::size_t keys = 0;
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels) keys += channel.times.size();
    return keys;
}

std::size_t weightsOf(const Mesh& mesh) {
    std::size_t most = 0;
    for (const glm::vec4& w : mesh.weights)
        most = std::max(most, std::size_t((w.x > 0) + (w.y > 0) + (w.z > 0) + (w.w > 0)));
    return most;
}

void takeNodes(const Model& model, ModelFacts& facts) {
    const glm::dmat4 identity(1.0);
    std::vector<int> children(model.nodes.size());
    for (const Node& node : model.nodes)
        if (node.parent >= 0) ++children[std::size_t(node.parent)];
    std::vector<bool> isBone(model.nodes.size());
    for (const Skin& skin : model.skins)
        for (const int joint : skin.joints) isBone[std::size_t(joint)] = true;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        if (facts.nodeNames.size() < mostNames) facts.nodeNames.push_back(node.name);
        if (isBone[n]) {
            if (facts.boneNames.size() < mostNames) facts.boneNames.push_back(node.name);
            continue;
        }
        double off = 0;
        for (int c = 0; c < 4; ++c)
            for (int r = 0; r < 4; ++r) off = std::max(off, std::abs(node.local[c][r] - identity[c][r]));
        facts.transforms += off > 1e-5;
        for (int c = 0; c < 3; ++c)
            if (std::abs(glm::length(glm::dvec3(node.local[c])) - 1) > 1e-3) {
                ++facts.scales;
                break;
            }
        facts.wrappers += node.mesh < 0 && children[n] > 0;
    }
}

void takeMeshes(const Model& model, ModelFacts& facts) {
    const glm::dmat4 file = toFile(model);
    geometry::forEachShownMesh(model, [&](int n, const Mesh& mesh, const glm::dmat4& world) {
        const Node& node = model.nodes[std::size_t(n)];
        ++facts.objects;
        facts.triangles += mesh.triangleCount(), facts.corners += mesh.vertexCount();
        facts.mostCorners = std::max(facts.mostCorners, mesh.vertexCount());
        facts.mostTriangles = std::max(facts.mostTriangles, mesh.triangleCount());
        facts.uvSets = std::max(facts.uvSets, mesh.uvSets.size());
        facts.colours |= !mesh.colours.empty();
        facts.morphs = std::max(facts.morphs, mesh.morphs.size());
        facts.weights = std::max(facts.weights, weightsOf(mesh));
        std::set<int> worn;
        for (const MaterialRun& run : mesh.runs)
            if (run.triangleCount > 0) worn.insert(run.material);
        facts.mostMaterials = std::max(facts.mostMaterials, worn.size());
        if (isBodyName(node.name)) facts.bodies.push_back(node.name);
        if (facts.parts.size() >= mostNames) return;
        const geometry::Bounds bounds = geometry::meshBounds(mesh, file * world);
        const int material = worn.empty() ? -1 : *worn.rbegin();
        facts.parts.push_back({node.name, bounds.centre(), mesh.triangleCount(),
                               material < 0 ? "" : model.materials[std::size_t(material)].name});
    });
}

void takeShape(const Model& model, ModelFacts& facts) {
    Model bare = model;
    bare.placement = glm::dmat4(1.0);
    const geometry::Bounds bounds = geometry::fileBounds(model);
    if (!bounds.empty()) facts.low = bounds.min, facts.high = bounds.max;
    const auto ahead = [&](double angle) {
        return glm::normalize(glm::dvec3(toFile(model) * glm::dvec4(std::sin(angle), 0, std::cos(angle), 0)));
    };
    facts.saysFront = model.headingKnown;
    if (facts.saysFront) facts.front = ahead(0);
    if (facts.triangles == 0 || facts.triangles > mostLookedTriangles) return;
    const Mesh mesh = geometry::flattened(bare);
    for (int axis = 0; axis < 3; ++axis)
        facts.footShare[std::size_t(axis)] = geometry::footShare(mesh, geometry::meshBounds(mesh), axis);
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) facts.slivers += geometry::isSliver(mesh, t);
    if (facts.saysFront) return;
    if (const auto heading = geometry::guessHeading(model)) facts.front = ahead(heading->angle);
}

void takeMaterials(const Model& model, ModelFacts& facts) {
    for (const int m : usedMaterials(model)) {
        if (m < 0) continue;
        ++facts.materials;
        const Material& material = model.materials[std::size_t(m)];
        if (facts.materialNames.size() < mostNames) facts.materialNames.push_back(material.name);
        for (const PictureRole role : allPictureRoles)
            if (material.picture(role)) facts.roles.emplace(roleName(role));
    }
}

} // namespace

ModelFacts modelFacts(const std::filesystem::path& file, const Progress& progress) {
    const Model model = formats::readModel(file, progress);
    ModelFacts facts;
    facts.format = model.format;
    facts.saysFrame = !model.frame.unitAssumed && !model.frame.upAssumed;
    facts.metres = model.frame.unit.metres;
    facts.upIsZ = model.frame.up == Up::Z;
    takeMeshes(model, facts);
    takeNodes(model, facts);
    takeShape(model, facts);
    takeMaterials(model, facts);
    for (const Skin& skin : model.skins) facts.bones = std::max(facts.bones, skin.joints.size());
    facts.clips = model.clips.size();
    facts.keys = keysOf(model);
    for (const auto& clip : model.clips) {
        if (facts.clipNames.size() < mostNames) facts.clipNames.push_back(clip->name);
        for (const Channel& channel : clip->channels)
            if (!channel.times.empty())
                facts.longestClip = std::max(facts.longestClip, double(channel.times.back()));
    }
    std::set<std::string> beside; // names of pictures that are files of their own
    std::error_code ignored;
    for (std::size_t i = 1; i < model.files.size(); ++i) {
        const auto& other = model.files[i];
        if (!texture::isPictureFile(other.string()) || !std::filesystem::is_regular_file(other, ignored))
            continue;
        facts.pictures.push_back(other.lexically_relative(file.parent_path()).generic_string());
        beside.insert(other.filename().string());
    }
    for (const auto& image : model.images)
        if (!beside.contains(image->name)) try {
                facts.inside.push_back(pictureFacts(*texture::encodedOf(image)));
            } catch (const Error&) {
                facts.inside.push_back({.format = image->format}); // its model says already that it is broken
            }
    for (const std::string& dropped : model.dropped)
        facts.compressed |= dropped.find("ompress") != std::string::npos;
    return facts;
}

} // namespace zl::learn
