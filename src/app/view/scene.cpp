#include "app/view/scene.h"

#include "core/blocks/greedy_mesh.h"
#include "core/motion/attached.h"
#include "core/motion/weights_on.h"
#include "core/geometry/deviation.h"
#include "core/geometry/light_mesh.h"
#include "core/geometry/normals.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_cache.h"

namespace zl::app {

namespace {

/// Triangles whose shadow is worked out for a picture that another soon follows.
constexpr std::size_t mostShadowedMoving = 3000;
/// Triangles that are drawn while a clip plays, of a piece that has more than mostWhileMoving.
constexpr std::size_t mostPlaying = 10000;

GlGeometry upload(const Mesh& mesh, const Model& model) {
    GlGeometry out;
    out.corners.resize(mesh.positions.size());
    for (std::size_t i = 0; i < mesh.positions.size(); ++i) {
        out.corners[i].position = mesh.positions[i];
        out.corners[i].normal = mesh.normals.empty() ? glm::vec3(0, 1, 0) : mesh.normals[i];
        out.corners[i].uv = mesh.uvSets.empty() ? glm::vec2(0) : mesh.uvSets[0][i];
    }
    out.indices = mesh.indices;
    std::map<int, std::shared_ptr<const Pixels>> pictures;
    for (const MaterialRun& run : mesh.runs) {
        GlGeometry::Range range{std::size_t(run.firstTriangle) * 3, std::size_t(run.triangleCount) * 3};
        range.material = run.material;
        if (run.material >= 0) {
            const Material& m = model.materials[run.material];
            using texture::toSrgb;
            // What is black but for a glow, as pictures with light in them are, shows that.
            const PictureUse& glow = m.picture(PictureRole::Emission);
            range.lit = glow && glm::vec3(m.baseColour) == glm::vec3(0);
            const glm::vec3 shown = range.lit ? m.emission : glm::vec3(m.baseColour);
            range.colour = {toSrgb(shown.r), toSrgb(shown.g), toSrgb(shown.b), 1};
            if (const PictureUse& use = range.lit ? glow : m.picture(PictureRole::Colour);
                use && !mesh.uvSets.empty()) {
                auto& picture = pictures[use.image];
                range.sampler = use.sampler;
                try {
                    if (!picture) picture = texture::pixelsOf(model.images[use.image]);
                } catch (const std::exception&) {
                    picture = std::make_shared<const Pixels>(); // broken pictures are reported on Gather;
                                                                // shown plain here
                }
                range.picture = picture;
            }
        }
        out.ranges.push_back(range);
    }
    return out;
}

/// The mean of the colour picture (of some thousands of its pixels) times the base colour.
std::vector<glm::vec3> swatchesOf(const GlGeometry& geometry, const Mesh& mesh, const Model& model) {
    std::vector<glm::vec3> swatches(model.materials.size(), glm::vec3(0.86f, 0.83f, 0.76f));
    for (std::size_t r = 0; r < mesh.runs.size(); ++r) {
        if (mesh.runs[r].material < 0) continue;
        const auto& range = geometry.ranges[r];
        glm::vec3 mean(1);
        if (range.picture && !range.picture->rgba.empty()) {
            const auto& rgba = range.picture->rgba;
            const std::size_t pixels = rgba.size() / 4, step = std::max<std::size_t>(1, pixels / 4001);
            glm::dvec3 sum(0);
            std::size_t count = 0;
            for (std::size_t p = 0; p < pixels; p += step, ++count)
                sum += glm::dvec3(rgba[4 * p], rgba[4 * p + 1], rgba[4 * p + 2]);
            mean = glm::vec3(sum / (255.0 * double(count)));
        }
        swatches[std::size_t(mesh.runs[r].material)] = glm::vec3(range.colour) * mean;
    }
    return swatches;
}

/// The stand-in that is posed while a clip plays.
std::shared_ptr<const Scene::Playing> playingOf(const GlGeometry& full, const Mesh& mesh) {
    std::vector<std::uint32_t> vertexOf(full.corners.size(), 0), number(full.corners.size(), ~0u);
    for (std::size_t i = 0; i < full.indices.size(); ++i) vertexOf[full.indices[i]] = mesh.indices[i];
    std::vector<glm::vec3> positions;
    positions.reserve(full.corners.size());
    for (const GlCorner& corner : full.corners) positions.push_back(corner.position);
    auto out = std::make_shared<Scene::Playing>();
    const std::size_t all = std::max<std::size_t>(1, full.indices.size());
    for (GlGeometry::Range range : full.ranges) {
        const auto kept =
            geometry::lightIndices(positions, std::span(full.indices).subspan(range.first, range.count),
                                   mostPlaying * range.count / all);
        range.first = out->indices.size(), range.count = kept.size();
        out->ranges.push_back(std::move(range));
        for (const std::uint32_t corner : kept) {
            if (number[corner] == ~0u) {
                number[corner] = std::uint32_t(out->corners.size());
                out->corners.push_back(corner), out->vertices.push_back(vertexOf[corner]);
            }
            out->indices.push_back(number[corner]);
        }
    }
    return out;
}

/// The scene without what is drawn, which for a heavy one would take as long to copy as a pose to work out.
std::shared_ptr<Scene> withoutGeometry(const Scene& scene) {
    return std::make_shared<Scene>(Scene{.model = scene.model,
                                         .paths = scene.paths,
                                         .mesh = scene.mesh,
                                         .nodeOfTriangle = scene.nodeOfTriangle,
                                         .materialOfTriangle = scene.materialOfTriangle,
                                         .swatches = scene.swatches,
                                         .full = {},
                                         .light = {},
                                         .playing = scene.playing,
                                         .rays = scene.rays,
                                         .bounds = scene.bounds,
                                         .shadow = {},
                                         .triangles = scene.triangles,
                                         .firstOfNode = scene.firstOfNode,
                                         .bones = scene.bones,
                                         .weighed = scene.weighed});
}

/// The stand-in's geometry with its corners where the mesh has them now.
GlGeometry playingIn(const Scene& rest, const Mesh& mesh) {
    const Scene::Playing& playing = *rest.playing;
    GlGeometry out;
    out.indices = playing.indices, out.ranges = playing.ranges;
    out.corners.reserve(playing.corners.size());
    for (std::size_t c = 0; c < playing.corners.size(); ++c) {
        GlCorner corner = rest.full.corners[playing.corners[c]];
        corner.position = mesh.positions[playing.vertices[c]];
        corner.normal = mesh.normals.empty() ? glm::vec3(0) : mesh.normals[playing.vertices[c]];
        out.corners.push_back(corner);
    }
    if (!mesh.normals.empty()) return out;
    for (std::size_t t = 0; t + 2 < out.indices.size(); t += 3) {
        GlCorner &a = out.corners[out.indices[t]], &b = out.corners[out.indices[t + 1]],
                 &c = out.corners[out.indices[t + 2]];
        const glm::vec3 normal = glm::cross(b.position - a.position, c.position - a.position);
        for (GlCorner* corner : {&a, &b, &c}) corner->normal += normal;
    }
    return out;
}

/// Where a build's blocks meet, while it stands along the axes.
glm::vec4 blockEdgesOf(const Model& model) {
    const blocks::Hull* hull = blocks::hullOf(model);
    if (!hull) return glm::vec4(0);
    const glm::dmat4 place = worldMatrices(model)[std::size_t(shownNodes(model)[0])];
    const double edge = hull->edge * place[0][0];
    if (!(edge > 0) || glm::dmat3(place) != glm::dmat3(place[0][0])) return glm::vec4(0);
    return glm::vec4(glm::dvec4(glm::dvec3(place * glm::dvec4(hull->cornerOf(hull->first), 1)), edge));
}

} // namespace

std::shared_ptr<const Scene> makeScene(const Model& model, const Progress& progress) {
    auto scene = std::make_shared<Scene>();
    progress.report(0, "preparing the view");
    scene->model = model;
    scene->paths = nodePaths(model);
    scene->mesh = geometry::flattened(model, &scene->nodeOfTriangle);
    scene->firstOfNode.assign(model.nodes.size(), 0);
    for (std::size_t t = scene->nodeOfTriangle.size(); t-- > 0;)
        scene->firstOfNode[std::size_t(scene->nodeOfTriangle[t])] = t;
    scene->materialOfTriangle = triangleMaterials(scene->mesh);
    scene->bones = motion::bonePlaces(model, worldMatrices(model));
    scene->blockEdges = blockEdgesOf(model);
    scene->bounds = geometry::meshBounds(scene->mesh);
    scene->shadow = floorShadowOf(scene->mesh, scene->bounds);
    scene->triangles = scene->mesh.triangleCount();
    progress.report(0.2);
    const Mesh shaded = scene->mesh.normals.empty() && scene->triangles > 0
                            ? geometry::withNormals(scene->mesh)
                            : scene->mesh;
    progress.report(0.5);
    scene->full = upload(shaded, model);
    scene->swatches = swatchesOf(scene->full, shaded, model);
    if (scene->triangles > mostWhileMoving) {
        Mesh light = geometry::lightMesh(scene->mesh, mostWhileMoving * 4 / 5);
        progress.report(0.8);
        scene->light = upload(geometry::withNormals(light), model);
        if (!scene->bones.empty() || !model.clips.empty())
            scene->playing = playingOf(scene->full, scene->mesh);
    }
    scene->rays = std::make_shared<geometry::RayScene>(scene->mesh);
    progress.report(1);
    return scene;
}

std::shared_ptr<const Scene> posedScene(const Scene& rest, const motion::Pose& pose, bool still,
                                        const Progress& progress) {
    const bool plays = !still && rest.playing;
    auto scene = plays ? withoutGeometry(rest) : std::make_shared<Scene>(rest);
    scene->light = {};
    for (motion::BonePlace& bone : scene->bones)
        bone.place = glm::dvec3(pose.world[std::size_t(bone.node)][3]);
    motion::poseFlattened(rest.model, pose, scene->mesh);
    progress.report(0.4);
    if (plays) {
        scene->full = playingIn(rest, scene->mesh);
        scene->shadow = floorShadowOf(scene->mesh, geometry::meshBounds(scene->mesh), mostShadowedMoving);
        return scene;
    }
    // Shading may have split corners but keeps the triangles' order.
    const Mesh& mesh = scene->mesh;
    auto& full = scene->full;
    if (mesh.normals.empty())
        for (GlCorner& corner : full.corners) corner.normal = glm::vec3(0);
    for (std::size_t i = 0; i < full.indices.size(); ++i) {
        GlCorner& corner = full.corners[full.indices[i]];
        corner.position = mesh.positions[mesh.indices[i]];
        if (!mesh.normals.empty()) {
            corner.normal = mesh.normals[mesh.indices[i]];
            continue;
        }
        const std::size_t t = i - i % 3;
        const glm::vec3 &a = mesh.positions[mesh.indices[t]], &b = mesh.positions[mesh.indices[t + 1]],
                        &c = mesh.positions[mesh.indices[t + 2]];
        corner.normal += glm::cross(b - a, c - a);
    }
    progress.report(0.7);
    const geometry::Bounds bounds = geometry::meshBounds(mesh);
    scene->shadow = floorShadowOf(mesh, bounds, still ? ~std::size_t(0) : mostShadowedMoving);
    if (still) {
        scene->bounds = bounds;
        scene->rays = std::make_shared<geometry::RayScene>(mesh);
    }
    return scene;
}

std::shared_ptr<const Scene> weighedScene(const std::shared_ptr<const Scene>& scene,
                                          const std::string& bone) {
    const int node =
        bone.empty() ? motion::heaviestBone(scene->model) : motion::jointNamed(scene->model, bone);
    if (node < 0) return scene;
    auto weighed = std::make_shared<Scene>(*scene);
    weighed->light = {};
    weighed->weighed = scene->model.nodes[std::size_t(node)].name;
    const auto weights = motion::weightsOn(scene->model, node);
    auto& full = weighed->full;
    for (std::size_t i = 0; i < full.indices.size() && i < scene->mesh.indices.size(); ++i)
        if (scene->mesh.indices[i] < weights.size())
            full.corners[full.indices[i]].heat = weights[scene->mesh.indices[i]];
    return weighed;
}

HeatedScene makeHeatedScene(const Scene& whole, const Scene& reference, const Progress& progress) {
    // A build's large faces have nothing to tell by between their corners: each block's by itself.
    const blocks::Hull* hull = blocks::hullOf(whole.model);
    std::shared_ptr<const Scene> apart;
    if (hull) {
        Model model = whole.model;
        model.meshes = {std::make_shared<const Mesh>(blocks::greedyMesh(*hull, false))};
        model.nodes[std::size_t(shownNodes(whole.model)[0])].mesh = 0;
        apart = makeScene(model, progress.between(0, 0.3));
    }
    const Scene& scene = apart ? *apart : whole;
    auto heated = std::make_shared<Scene>(scene);
    heated->blockEdges = whole.blockEdges;
    heated->light = {};
    HeatedScene result;
    const auto distances = geometry::triangleDeviation(scene.mesh, reference.mesh, 400000, progress);
    for (const float d : distances) result.hottest = std::max(result.hottest, double(d));
    if (hull) // what is inside is far from everything, and nobody sees it
        result.hottest = std::min(result.hottest, double(whole.blockEdges.w));
    // Shading may have split corners but keeps the triangles' order; a corner is as hot as its hottest
    // triangle.
    auto& full = heated->full;
    for (std::size_t i = 0; i < full.indices.size() && result.hottest > 0; ++i) {
        float& heat = full.corners[full.indices[i]].heat;
        heat = std::max(heat, float(std::min(1.0, distances[i / 3] / result.hottest)));
    }
    result.scene = heated;
    return result;
}

} // namespace zl::app
