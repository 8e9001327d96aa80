#include "core/steps/uv_placement.h"

#include "core/steps/lost_tangents.h"
#include "core/uv/moved_uvs.h"
#include "core/uv/placing.h"
#include "core/uv/uv_faces.h"

#include <map>

namespace zl::steps {

namespace {

/// The part of a picture that triangles cover.
struct Stretch {
    glm::dvec2 least{1e300}, most{-1e300};
    void add(const uv::UvFace& face) {
        for (const glm::vec2& at : face.at)
            least = glm::min(least, glm::dvec2(at)), most = glm::max(most, glm::dvec2(at));
    }
    glm::dvec2 middle() const { return least.x > most.x ? glm::dvec2(0) : (least + most) * 0.5; }
};

} // namespace

Model UvPlacement::apply(const Model& in, StepContext& context) const {
    const uv::Placing placing{{across, down}, turn, {wider, taller}};
    const auto marked = context.chosenOrAll(in, faces);
    if (placing == uv::Placing{}) {
        context.note("pictures stay where they are");
        return in;
    }
    Stretch together;
    std::map<int, Stretch> each;
    std::size_t bare = 0, count = 0;
    const uv::UvFaces all = uv::uvFaces(in);
    for (const uv::UvFace& face : all.faces) {
        if (!marked.has(std::size_t(face.node), face.triangle)) continue;
        together.add(face), each[face.node].add(face);
        ++count;
    }
    bare = marked.count() - count;
    if (bare > 0)
        context.fellShort(fmt::format("{} no UVs", showCount(long(bare), "triangle has", "triangles have")));
    if (count == 0) return in;
    context.note(fmt::format("pictures moved on {} of {}", showCount(long(count), "triangle", "triangles"),
                             showCount(long(each.size()), "part", "parts")));
    Model out = uv::withMovedUvs(in, marked.faces, [&](int node, int material) {
        const glm::dvec2 pixels = glm::max(uv::leadingPixels(in, material), 1);
        const glm::dvec2 centre = about == About::Together ? together.middle()
                                  : about == About::Each   ? each[node].middle()
                                                           : glm::dvec2(0);
        return uv::uvMapOf(placing, centre, pixels.x / pixels.y);
    });
    noteLostTangents(in, out, context);
    return out;
}

} // namespace zl::steps
