#include "core/steps/across_seam.h"

#include "core/steps/lost_tangents.h"
#include "core/uv/seam.h"

#include <cmath>

namespace zl::steps {

namespace {

/// Two panels, the places where they meet, and how long a picture is on the second.
struct Sewn {
    selection::Chosen first, second;
    uv::Seam seam;
    double aspect = 1;       ///< of the second's picture
    double metresAcross = 0; ///< that a picture's width takes on the second
};

/// Nothing where a panel is not chosen yet, which is noted.
std::optional<Sewn> sewn(const Model& in, StepContext& context, const Selection& first,
                         const Selection& second, double within) {
    Sewn out{context.chosen(in, first), context.chosen(in, second)};
    for (std::size_t n = 0; n < out.first.faces.size() && n < out.second.faces.size();
         ++n) // in both: the first's
        if (!out.first.faces[n].empty()) out.second.join(n, out.first.faces[n], true);
    if (out.first.count() == 0 || out.second.count() == 0) {
        context.note(first.empty() || second.empty() ? "two panels are to be chosen"
                                                     : "one of the two panels chooses no face of its own");
        return std::nullopt;
    }
    out.seam = uv::seamBetween(in, out.first.faces, out.second.faces, within);
    if (out.seam.points.empty())
        throw Error("the two panels do not meet", {},
                    "Choose panels that share a border and have UVs, or allow more between their borders.");
    double uvArea = 0, area = 0;
    int material = -1;
    const uv::UvFaces faces = uv::uvFaces(in);
    for (const uv::UvFace& face : faces.faces)
        if (out.second.has(std::size_t(face.node), face.triangle))
            uvArea += 0.5 * std::abs(uv::doubleUvArea(face)), area += face.area, material = face.material;
    const glm::dvec2 pixels = glm::max(uv::leadingPixels(in, material), 1);
    out.aspect = pixels.x / pixels.y;
    if (uvArea > 0) out.metresAcross = std::sqrt(area / uvArea * out.aspect);
    return out;
}

} // namespace

Model RunOn::apply(const Model& in, StepContext& context) const {
    const auto both = sewn(in, context, from, onto, within);
    if (!both) return in;
    const auto fit = uv::fitAcross(both->seam, both->aspect, mirror, size);
    if (!fit)
        throw Error("the panels meet in one place of their pictures only", {},
                    "Give both panels UVs along the seam.");
    const double across = both->metresAcross / fit->scale; // UVs that grow make the picture smaller
    context.note(fmt::format("picture turned by {}°, {} times as large, along {} of seam",
                             showNumber(glm::degrees(-fit->turn), 1), showNumber(1 / fit->scale, 3),
                             context.showLength(both->seam.length)));
    context.note(fmt::format("off by {} of the picture's width at most ({}), {} in the mean",
                             showNumber(100 * fit->largest, 2) + " %",
                             context.showLength(fit->largest * across),
                             showNumber(100 * fit->mean, 2) + " %"));
    context.facts["seam"] = {{"metres", both->seam.length}, {"largest", fit->largest}, {"mean", fit->mean}};
    const auto other = uv::fitAcross(both->seam, both->aspect, !mirror, size);
    if (other && other->mean < 0.25 * fit->mean) {
        context.fellShort(mirror ? "unmirrored it would go on better" : "mirrored it would go on better");
        context.offer(mirror ? "Do not mirror it" : "Mirror it", {{"mirror", !mirror}});
    }
    Model out = uv::withMovedUvs(in, both->second.faces, [&](int, int) { return fit->map; });
    noteLostTangents(in, out, context);
    return out;
}

Model StopAtSeam::apply(const Model& in, StepContext& context) const {
    const auto both = sewn(in, context, against, panel, within);
    if (!both) return in;
    const auto line = uv::lineAlong(both->seam, both->aspect);
    if (!line)
        throw Error("the panels meet in one place of the picture only", {},
                    "Give the panel UVs along the seam.");
    // In the picture's own proportions: the line goes onto an edge, with the panel within the picture.
    const auto seen = [&](glm::dvec2 uv) { return glm::dvec2(uv.x * both->aspect, uv.y); };
    glm::dvec2 middle(0);
    double weight = 0;
    const uv::UvFaces faces = uv::uvFaces(in);
    for (const uv::UvFace& face : faces.faces)
        if (both->second.has(std::size_t(face.node), face.triangle)) {
            middle += double(face.area) * seen(glm::dvec2(face.at[0] + face.at[1] + face.at[2]) / 3.0);
            weight += face.area;
        }
    if (weight > 0) middle /= weight;
    const bool upright = edge == Edge::Left || edge == Edge::Right;
    const bool farEdge = edge == Edge::Lower || edge == Edge::Right;
    glm::dvec2 from = seen(line->from), along = glm::normalize(seen(line->to) - from);
    const auto sideOf = [&](glm::dvec2 d) { return d.x * (middle - from).y - d.y * (middle - from).x; };
    // Along an upper or right edge the picture is on the left of where one walks, rows counting downward.
    const bool leftWanted = upright == farEdge;
    if ((sideOf(along) > 0) != leftWanted) from = seen(line->to), along = -along;
    const glm::dvec2 wanted = upright ? glm::dvec2(0, 1) : glm::dvec2(1, 0);
    const double c = glm::dot(along, wanted), s = along.x * wanted.y - along.y * wanted.x;
    const glm::dmat2 turn{glm::dvec2(c, s), glm::dvec2(-s, c)};
    const glm::dvec2 begin = edge == Edge::Lower   ? glm::dvec2(0, 1)
                             : edge == Edge::Right ? glm::dvec2(both->aspect, 0)
                                                   : glm::dvec2(0, 0);
    const glm::dvec2 rest = begin - turn * from;
    const double a = both->aspect;
    const glm::dmat3 map{glm::dvec3(turn[0].x, turn[0].y * a, 0), glm::dvec3(turn[1].x / a, turn[1].y, 0),
                         glm::dvec3(rest.x / a, rest.y, 1)};
    context.note(fmt::format("the picture begins along {} of seam, off by {} at most",
                             context.showLength(both->seam.length),
                             context.showLength(line->largest * both->metresAcross)));
    context.facts["seam"] = {{"metres", both->seam.length}, {"largest", line->largest}};
    Model out = uv::withMovedUvs(in, both->second.faces, [&](int, int) { return map; });
    noteLostTangents(in, out, context);
    return out;
}

} // namespace zl::steps
