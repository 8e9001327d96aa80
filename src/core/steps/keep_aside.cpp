#include "core/steps/keep_aside.h"

#include "core/base/words.h"
#include "core/geometry/parts.h"
#include "core/geometry/world.h"
#include "core/model/finite.h"
#include "core/model/node_path.h"
#include "core/selection/cut_out.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::steps {

namespace {

/// The nearest change that bends nothing: the turn (polar decomposition by Newton's iteration, Higham 1986)
/// and the scale alike in all directions of `change`, about what it does to `centre`. Nothing for one that
/// flattens.
std::optional<glm::dmat4> withoutBending(const glm::dmat4& change, const glm::dvec3& centre) {
    glm::dmat3 turn(change);
    const double scale = std::cbrt(std::abs(glm::determinant(turn)));
    for (int i = 0; i < 40; ++i) turn = 0.5 * (turn + glm::transpose(glm::inverse(turn)));
    glm::dmat4 out(scale * turn);
    const glm::dvec3 to(change * glm::dvec4(centre, 1));
    out[3] = glm::dvec4(to - glm::dvec3(out * glm::dvec4(centre, 0)), 1);
    if (!isFinite(out) || !(scale > 0)) return std::nullopt;
    return out;
}

/// Takes what was kept aside from one model into what the steps made of it.
class Return {
public:
    Return(const Model& aside, Model now)
        : aside_(aside), out_(std::move(now)), asideWorld_(worldMatrices(aside)), world_(worldMatrices(out_)),
          byPath_(nodesByPath(out_)) {}

    /// A mesh that a node of `aside` showed, as it stands in the space of a node of the result.
    std::shared_ptr<const Mesh> meshFor(int was, int is, const std::shared_ptr<const Mesh>& mesh) {
        const glm::dmat4 &from = asideWorld_[std::size_t(was)], &to = world_[std::size_t(is)];
        Mesh moved = *mesh;
        if (from != to) {
            const glm::dvec3 centre = geometry::meshBounds(*mesh, from).centre();
            const auto whole = withoutBending(to * glm::inverse(from), centre);
            const glm::dmat4 within = whole ? glm::inverse(to) * *whole * from : glm::dmat4(1.0);
            if (!isNearly(within)) moved = geometry::transformed(*mesh, within);
        }
        for (MaterialRun& run : moved.runs) {
            if (run.material >= 0) run.material = materialLike(run.material);
        }
        bringSurfaces(moved, aside_, out_);
        return std::make_shared<const Mesh>(std::move(moved));
    }

    int node(const NodePath& path) const {
        const auto found = byPath_.find(path);
        return found == byPath_.end() ? -1 : found->second;
    }
    int show(std::shared_ptr<const Mesh> mesh) {
        out_.meshes.push_back(std::move(mesh));
        return int(out_.meshes.size()) - 1;
    }
    Model& out() { return out_; }

private:
    /// The same one, else the first of its name; one that the steps did away with comes back, with its
    /// pictures.
    int materialLike(int was) {
        const Material& material = aside_.materials[std::size_t(was)];
        auto& have = out_.materials;
        if (std::size_t(was) < have.size() && have[std::size_t(was)] == material)
            return was; // names may be alike
        if (const auto same = std::ranges::find(have, material); same != have.end())
            return int(same - have.begin());
        if (const auto named = std::ranges::find(have, material.name, &Material::name); named != have.end())
            return int(named - have.begin());
        Material back = material;
        for (PictureUse& use : back.pictures) {
            if (!use) continue;
            const auto& image = aside_.images[std::size_t(use.image)];
            const auto there = std::ranges::find(out_.images, image);
            use.image = int(there - out_.images.begin());
            if (there == out_.images.end()) out_.images.push_back(image);
        }
        have.push_back(std::move(back));
        return int(have.size()) - 1;
    }
    /// A change that only rounding makes is none: what nobody touched stays as it was to the last bit.
    static bool isNearly(const glm::dmat4& m) {
        double most = 0;
        for (int c = 0; c < 4; ++c)
            for (int r = 0; r < 4; ++r) most = std::max(most, std::abs(m[c][r] - (c == r ? 1.0 : 0.0)));
        return most < 1e-9;
    }

    const Model& aside_;
    Model out_;
    std::vector<glm::dmat4> asideWorld_, world_;
    std::map<NodePath, int, std::less<>> byPath_;
};

} // namespace

Model KeepAside::apply(const Model& in, StepContext& context) const {
    std::vector<int> made;
    auto cut = selection::cutOut(in, context.chosen(in, faces), {}, &made);
    std::size_t triangles = 0;
    std::vector<char> gone(cut.nodes.size(), 0);
    for (const int node : made) {
        triangles += cut.meshes[std::size_t(cut.nodes[std::size_t(node)].mesh)]->triangleCount();
        // What was chosen wholly stays among the others, and gets its shape back behind them.
        gone[std::size_t(node)] = std::size_t(node) >= in.nodes.size();
    }
    context.note(made.empty()
                     ? "nothing is chosen"
                     : fmt::format("{} kept aside", showCount(long(triangles), "triangle", "triangles")));
    Model out = geometry::withoutNodes(cut, gone);
    context.aside = std::make_shared<const Aside>(Aside{std::move(cut), in.nodes.size(), std::move(made)});
    return out;
}

Model KeepAside::close(const Aside& aside, const Model& now, StepContext& context) const {
    Return back(aside.model, now);
    const auto paths = nodePaths(aside.model);
    const auto shownBy = [&](int node) {
        return aside.model.meshes[std::size_t(aside.model.nodes[std::size_t(node)].mesh)];
    };
    std::vector<char> isBack(now.nodes.size(), 0);
    for (const int kept : aside.nodes) {
        const auto mesh = shownBy(kept);
        const bool isPart = std::size_t(kept) >= aside.given;
        int host = kept;
        for (std::size_t n = 0; isPart && n < aside.given; ++n)
            if (aside.model.nodes[n].mesh >= 0 && shownBy(int(n))->cut.cut == mesh->cut.cut) host = int(n);
        const int here = back.node(paths[std::size_t(host)]);
        if (here < 0 || back.out().nodes[std::size_t(here)].mesh < 0) {
            context.fellShort(fmt::format("\"{}\" is gone, so what was kept aside of it has no place",
                                          paths[std::size_t(host)]));
            continue;
        }
        const int shape = back.show(back.meshFor(kept, here, mesh));
        Node& home = back.out().nodes[std::size_t(here)];
        if (!isPart) { // chosen wholly: it has its own shape again
            home.mesh = shape;
            continue;
        }
        const Node part{aside.model.nodes[std::size_t(kept)].name, here, glm::dmat4(1.0), shape, home.skin};
        back.out().nodes.push_back(part);
        isBack.push_back(1);
    }
    std::vector<std::string> notes;
    Model out = selection::joinedBack(back.out(), isBack, selection::Weld::Part, &notes);
    for (std::string& note : notes) context.fellShort(std::move(note));
    return out;
}

} // namespace zl::steps
