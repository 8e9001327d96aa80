#include "core/steps/one_material.h"

#include "core/base/pattern.h"
#include "core/base/unique_names.h"
#include "core/geometry/corners_apart.h"
#include "core/geometry/topology.h"
#include "core/geometry/world.h"
#include "core/model/finite.h"
#include "core/model/used_only.h"
#include "core/texture/atlas_pictures.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

namespace zl::steps {

namespace {

constexpr int usualEdge = 2048, patchEdge = 4;

/// One mesh on its way: corners that belong to one look each, and where they lie on its leading picture.
struct Laid {
    int mesh = 0;
    Mesh apart;
    std::vector<int> look; ///< of each corner
    std::vector<glm::vec2> place;
};

/// Everything that gets one material together.
class Gathering {
public:
    Gathering(const OneMaterial& step, Model& model, StepContext& context)
        : step_(step), model_(model), context_(context) {}

    /// `node` stands for all that show its mesh.
    void add(int node, const glm::dmat4& toWorld) {
        Laid& laid = laid_.emplace_back();
        laid.mesh = model_.nodes[node].mesh;
        if (object_.empty()) object_ = model_.nodes[node].name;
        const Mesh& mesh = *model_.meshes[laid.mesh];
        std::vector<int> kind = triangleMaterials(mesh);
        for (int& k : kind) {
            worn_.insert(k);
            k = lookOf(k);
        }
        laid.apart = geometry::cornersApart(mesh, kind, std::vector<Wear>(kind.size()));
        laid.apart.surfaces = mesh.surfaces;
        laid.apart.runs = {{0, std::uint32_t(kind.size()), 0}};
        lay(laid, kind, model_.nodes[node].name);
        measure(laid, kind, toWorld);
    }

    /// Puts the one material in place; nothing where there is one already.
    void finish(const Progress& progress) {
        if (worn_.size() < 2) return keepColourOnly();
        const auto largest = std::ranges::max_element(sources_, {}, &texture::AtlasSource::area);
        const std::string name =
            freeName(!step_.name.empty()                       ? step_.name
                     : step_.scope == OneMaterial::Scope::Each ? object_
                                                               : largest->look.material().name);
        if (sources_.size() == 1) { // they differ by name only
            Material one = sources_[0].look.material();
            one.name = name;
            model_.materials.push_back(one);
            for (Laid& laid : laid_) put(laid, nullptr);
            context_.note(fmt::format("{} that look alike became one",
                                      showCount(long(worn_.size()), "material", "materials")));
            return;
        }
        const texture::AtlasLayout layout = layOut();
        texture::PaintedAtlas atlas = paintAtlas(sources_, layout, step_.padding,
                                                 step_.keep == OneMaterial::Keep::Colour, name, progress);
        for (PictureUse& use : atlas.material.pictures)
            if (use) use.image += int(model_.images.size());
        model_.images.insert(model_.images.end(), atlas.images.begin(), atlas.images.end());
        model_.materials.push_back(atlas.material);
        for (Laid& laid : laid_) put(laid, &layout);
        report(layout, atlas);
    }

private:
    /// The name, with a number where a material that stays has it.
    std::string freeName(const std::string& wanted) const {
        UniqueNames taken;
        for (int m = 0; m < int(model_.materials.size()); ++m)
            if (!worn_.contains(m)) taken.made(model_.materials[m].name);
        return taken.made(wanted.empty() ? "material" : wanted);
    }

    /// One material already: where only its colour is wanted, its other pictures go.
    void keepColourOnly() {
        const int worn = worn_.empty() ? -1 : *worn_.begin();
        if (step_.keep != OneMaterial::Keep::Colour || worn < 0) return;
        Material bare = model_.materials[worn];
        const PictureUse colour = bare.picture(PictureRole::Colour);
        for (const PictureRole role : allPictureRoles) {
            PictureUse& use = bare.picture(role);
            if (!use || role == PictureRole::Colour ||
                (role == PictureRole::Opacity && use.image == colour.image))
                continue;
            use = {};
            context_.note(fmt::format("left out the {} picture of \"{}\"", roleName(role), bare.name));
        }
        if (bare == model_.materials[worn]) return;
        model_.materials.push_back(bare);
        for (const Laid& laid : laid_) {
            auto mesh = std::make_shared<Mesh>(*model_.meshes[laid.mesh]);
            for (MaterialRun& run : mesh->runs) run.material = int(model_.materials.size()) - 1;
            model_.meshes[laid.mesh] = std::move(mesh);
        }
    }

    /// The number of the look of a material; those that differ in name only share one.
    int lookOf(int material) {
        const auto known = looks_.find(material);
        if (known != looks_.end()) return known->second;
        const Material& wanted = material < 0 ? plain_ : model_.materials[material];
        Material bare = wanted;
        bare.name.clear();
        const auto alike = std::ranges::find(bare_, bare);
        const int index = int(alike - bare_.begin());
        if (alike == bare_.end()) {
            bare_.push_back(bare);
            sources_.push_back({texture::WornLook(wanted, model_), glm::vec2(1e30f), glm::vec2(-1e30f), 0});
            texels_.push_back(0);
        }
        return looks_[material] = index;
    }

    /// Finds each corner's place and widens the stretch that its look's tile has to show. What hangs together
    /// moves by whole repeats towards the origin, so that stretches overlap as far as they can.
    void lay(Laid& laid, const std::vector<int>& kind, const std::string& object) {
        const Mesh& mesh = laid.apart;
        std::vector<std::uint32_t> itself(mesh.vertexCount());
        std::iota(itself.begin(), itself.end(), 0u);
        std::size_t charts = 0;
        const auto chartOf = geometry::pieceOfTriangle(mesh, itself, &charts);
        laid.look.assign(mesh.vertexCount(), 0);
        laid.place.assign(mesh.vertexCount(), glm::vec2(0));
        std::vector<std::uint32_t> chart(mesh.vertexCount(), 0);
        std::vector<int> lookOfChart(charts, 0);
        std::vector<glm::vec2> least(charts, glm::vec2(1e30f)), most(charts, glm::vec2(-1e30f)), by(charts);
        for (std::size_t c = 0; c < mesh.indices.size(); ++c) {
            const std::uint32_t v = mesh.indices[c];
            laid.look[v] = kind[c / 3];
            chart[v] = chartOf[c / 3];
            lookOfChart[chart[v]] = laid.look[v];
            const PictureUse* use = sources_[laid.look[v]].look.leading();
            if (!use || use->uvSet >= int(mesh.uvSets.size())) continue;
            const glm::vec2 at = use->placement.of(mesh.uvSets[use->uvSet][v]);
            laid.place[v] = isFinite(at) ? at : glm::vec2(0);
        }
        for (std::uint32_t v = 0; v < mesh.vertexCount(); ++v)
            least[chart[v]] = glm::min(least[chart[v]], laid.place[v]),
            most[chart[v]] = glm::max(most[chart[v]], laid.place[v]);
        for (std::size_t i = 0; i < charts; ++i) {
            const texture::WornLook& look = sources_[lookOfChart[i]].look;
            refuseWide(look, most[i] - least[i], object);
            by[i] = shift(look, least[i]);
        }
        for (std::uint32_t v = 0; v < mesh.vertexCount(); ++v) {
            texture::AtlasSource& source = sources_[laid.look[v]];
            laid.place[v] -= by[chart[v]];
            source.from = glm::min(source.from, laid.place[v]),
            source.to = glm::max(source.to, laid.place[v]);
        }
    }

    static glm::vec2 shift(const texture::WornLook& look, glm::vec2 least) {
        glm::vec2 by(0);
        for (int axis = 0; axis < 2; ++axis)
            if (const auto period = float(look.period(axis)); period > 0)
                by[axis] = std::floor(least[axis] / period + 1e-4f) * period;
        return by;
    }

    void refuseWide(const texture::WornLook& look, glm::vec2 wide, const std::string& object) const {
        if (!look.hasPictures() || std::max(wide.x, wide.y) <= float(step_.repeats) * 1.001f) return;
        throw Error(
            fmt::format("the picture of \"{}\" stands {} × {} times on \"{}\", and {} at most are unrolled",
                        look.material().name, showNumber(wide.x, 1), showNumber(wide.y, 1), object,
                        step_.repeats),
            {}, "Raise \"Unroll repeats up to\", which makes the picture coarser, or leave that part out.");
    }

    /// Surfaces and texels of each look, for reports and for what is shrunk first.
    void measure(const Laid& laid, const std::vector<int>& kind, const glm::dmat4& toWorld) {
        const Mesh& mesh = laid.apart;
        const glm::dmat3 linear(toWorld);
        std::vector<double> pixels; // on a whole UV square, of each look
        for (const texture::AtlasSource& source : sources_)
            pixels.push_back(double(source.look.pixels().x) * source.look.pixels().y);
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            const std::uint32_t* c = &mesh.indices[3 * t];
            const glm::dvec3 a(mesh.positions[c[0]]), b(mesh.positions[c[1]]), d(mesh.positions[c[2]]);
            const double area = 0.5 * glm::length(glm::cross(linear * (b - a), linear * (d - a)));
            const glm::dvec2 u(laid.place[c[0]]), v = glm::dvec2(laid.place[c[1]]) - u,
                                                  w = glm::dvec2(laid.place[c[2]]) - u;
            if (!std::isfinite(area)) continue;
            sources_[kind[t]].area += area;
            texels_[kind[t]] += 0.5 * std::abs(v.x * w.y - v.y * w.x) * pixels[kind[t]];
        }
    }

    double density(std::size_t source) const {
        return sources_[source].area > 0 && sources_[source].look.hasPictures()
                   ? std::sqrt(texels_[source] / sources_[source].area)
                   : 0;
    }

    texture::AtlasLayout layOut() {
        std::vector<texture::AtlasTile> tiles;
        for (std::size_t i = 0; i < sources_.size(); ++i) {
            texture::AtlasSource& source = sources_[i];
            if (!source.look.hasPictures()) {
                source.from = glm::vec2(0), source.to = glm::vec2(1);
                tiles.push_back({patchEdge, patchEdge, 0});
                continue;
            }
            const glm::vec2 pixels(source.look.pixels());
            source.from = glm::floor(source.from * pixels + 1e-3f) / pixels;
            source.to = glm::max(glm::ceil(source.to * pixels - 1e-3f) / pixels, source.from + 1.0f / pixels);
            const glm::vec2 wide = source.to - source.from;
            if (std::max(wide.x, wide.y) > float(2 * step_.repeats + 1))
                refuseWide(source.look, wide, "all its parts");
            const glm::vec2 size = glm::round(wide * pixels);
            tiles.push_back({int(size.x), int(size.y), density(i)});
        }
        const int edge = mostEdge();
        const auto layout = texture::layOutAtlas(tiles, edge, step_.padding);
        if (layout.width == 0)
            throw Error(fmt::format("{} do not fit into a picture of {} px",
                                    showCount(long(sources_.size()), "material", "materials"), edge),
                        {}, "Allow a larger picture or less padding, or make one material for each object.");
        return layout;
    }

    int mostEdge() const {
        if (step_.edge > 0) return step_.edge;
        double most = usualEdge;
        bool limited = false;
        if (context_.sheet)
            for (const platform::RuleSpec* rule : context_.sheet->rulesOf("picture-edge")) {
                const double limit = rule->limit("most", usualEdge);
                most = limited ? std::min(most, limit) : limit;
                limited = true;
            }
        return int(std::clamp(most, 1.0, 8192.0));
    }

    /// Writes the mesh back, on the atlas where there is one.
    void put(Laid& laid, const texture::AtlasLayout* layout) {
        Mesh mesh = std::move(laid.apart);
        const int material = int(model_.materials.size()) - 1;
        for (MaterialRun& run : mesh.runs) run.material = material;
        if (layout) {
            std::vector<glm::vec2> uv(mesh.vertexCount());
            for (std::size_t v = 0; v < uv.size(); ++v) {
                const texture::AtlasSource& source = sources_[laid.look[v]];
                const texture::AtlasPlace& place = layout->places[laid.look[v]];
                const glm::vec2 share = source.look.hasPictures()
                                            ? (laid.place[v] - source.from) / (source.to - source.from)
                                            : glm::vec2(0.5f);
                uv[v] = (glm::vec2(place.x, place.y) +
                         glm::clamp(share, 0.0f, 1.0f) * glm::vec2(place.width, place.height)) /
                        glm::vec2(layout->width, layout->height);
                turnTangent(mesh, v, source.look);
            }
            if (mesh.uvSets.empty()) mesh.uvSets.emplace_back();
            mesh.uvSets[0] = std::move(uv);
        }
        model_.meshes[laid.mesh] = std::make_shared<const Mesh>(std::move(mesh));
    }

    /// A tangent points along u, which the picture's placement may have turned or mirrored.
    static void turnTangent(Mesh& mesh, std::size_t v, const texture::WornLook& look) {
        if (mesh.tangents.empty() || mesh.normals.empty() || !look.hasPictures()) return;
        const UvPlacement& lie = look.leading()->placement;
        if (lie.turn == 0 && lie.scale.x > 0 && lie.scale.y > 0) return;
        const glm::vec4 old = mesh.tangents[v];
        const glm::vec3 across(old), up = glm::cross(mesh.normals[v], across) * old.w;
        const float x = lie.scale.x < 0 ? -1.0f : 1.0f, y = lie.scale.y < 0 ? -1.0f : 1.0f;
        const float c = std::cos(lie.turn), s = std::sin(lie.turn);
        mesh.tangents[v] = glm::vec4(across * (c * x) - up * (s * y), old.w * x * y);
    }

    void report(const texture::AtlasLayout& layout, const texture::PaintedAtlas& atlas) {
        context_.note(fmt::format(
            "{} became one with {} of {} × {} px", showCount(long(worn_.size()), "material", "materials"),
            showCount(long(atlas.images.size()), "picture", "pictures"), layout.width, layout.height));
        auto& facts = context_.facts["texels-per-metre"];
        for (std::size_t i = 0; i < sources_.size(); ++i) {
            const double before = density(i);
            if (!(before > 0)) continue;
            const texture::AtlasSource& source = sources_[i];
            const glm::vec2 whole = (source.to - source.from) * glm::vec2(source.look.pixels());
            const double after = before * std::sqrt(double(layout.places[i].width) * layout.places[i].height /
                                                    (double(whole.x) * whole.y));
            const std::string& name = source.look.material().name;
            context_.note(
                fmt::format("{}: {} → {} texels a metre", name, showNumber(before, 0), showNumber(after, 0)));
            facts[name] = {{"before", before}, {"after", after}};
        }
        for (const std::string& what : atlas.leftOut) context_.note("left out " + what);
    }

    const OneMaterial& step_;
    Model& model_;
    StepContext& context_;
    const Material plain_{};
    std::string object_;       ///< the first one's name
    std::set<int> worn_;       ///< materials, -1 for none
    std::map<int, int> looks_; ///< by material
    std::vector<Material> bare_;
    std::vector<texture::AtlasSource> sources_; ///< by look
    std::vector<double> texels_;                ///< by look, on the model's surface
    std::vector<Laid> laid_;
};

} // namespace

Model OneMaterial::apply(const Model& in, StepContext& context) const {
    const NamePatterns wanted(parts.patterns);
    Model out = in;
    const auto world = worldMatrices(in);
    std::map<int, int> own; // by old mesh: one of its own for the chosen nodes, where others show it too
    std::vector<int> first; // of the nodes that show each mesh
    for (int n = 0; n < int(in.nodes.size()); ++n) {
        Node& node = out.nodes[n];
        if (node.mesh < 0 || !wanted.match(node.name) || in.meshes[node.mesh]->triangleCount() == 0) continue;
        const auto [entry, fresh] = own.try_emplace(node.mesh, node.mesh);
        if (fresh) {
            const bool shared = std::ranges::any_of(in.nodes, [&](const Node& other) {
                return other.mesh == node.mesh && !wanted.match(other.name);
            });
            if (shared) {
                entry->second = int(out.meshes.size());
                out.meshes.push_back(in.meshes[node.mesh]);
            }
            first.push_back(n);
        }
        node.mesh = entry->second;
    }
    const std::size_t groups = scope == Scope::All ? 1 : first.size();
    for (std::size_t g = 0; g < groups; ++g) {
        const Progress part =
            context.progress.between(double(g) / double(groups), double(g + 1) / double(groups));
        part.report(0, "laying UVs out");
        Gathering gathering(*this, out, context);
        for (std::size_t i = 0; i < first.size(); ++i)
            if (scope == Scope::All || i == g) gathering.add(first[i], world[first[i]]);
        gathering.finish(part);
    }
    if (context.notes.empty()) context.note("there is one material already");
    return withUsedMaterialsOnly(std::move(out));
}

} // namespace zl::steps
