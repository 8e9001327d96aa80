// Rules about how a model lies on its pictures: within their borders, each part on ground of its own, and as
// fine as the platform wants.
#include "core/platform/rules/all_rules.h"

#include "core/base/words.h"
#include "core/uv/islands.h"
#include "core/uv/overlap.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::platform {

namespace {

bool isOnPicture(const Model& model, const uv::UvFace& face) {
    return face.material >= 0 && model.materials[std::size_t(face.material)].leading() != nullptr;
}

/// Plain colours are often kept as one pixel each, on which whole faces lie.
bool showsOnePixel(const uv::UvFace& face) {
    return face.at[0] == face.at[1] && face.at[0] == face.at[2];
}

/// What one object wears of one material.
struct Worn {
    double texels = 0, area = 0;
    double density() const { return area > 0 ? std::sqrt(texels / area) : 0; }
};

} // namespace

Finding measureUvInside(const Measures& m, const Sheet&, const RuleSpec&) {
    const uv::UvFaces& faces = m.uvFaces();
    Finding finding;
    finding.canBeTight = false;
    finding.limit = "all";
    double furthest = 0;
    for (const uv::UvFace& face : faces.faces) {
        double beyond = 0;
        for (const glm::vec2& at : face.at)
            beyond = std::max({beyond, double(-at.x), double(-at.y), double(at.x) - 1, double(at.y) - 1});
        if (beyond <= uv::borderSlack) continue;
        furthest = std::max(furthest, beyond);
        finding.faces.push_back({face.node, face.triangle});
    }
    finding.value = double(finding.faces.size()) + double(faces.bare);
    finding.nodes = faces.bareNodes;
    finding.holds = finding.value == 0;
    finding.measured = finding.holds ? "all" : fmt::format("{} not", showNumber(finding.value, 0));
    if (finding.holds)
        finding.note = "Every triangle lies within its picture's borders";
    else if (!finding.faces.empty())
        finding.note =
            fmt::format("{} beyond the picture's borders, by up to {} of its width",
                        showCount(long(finding.faces.size()), "triangle reaches", "triangles reach"),
                        showNumber(furthest, 2));
    if (faces.bare > 0)
        finding.note += fmt::format("{}{} no UVs", finding.note.empty() ? "" : "; ",
                                    showCount(long(faces.bare), "triangle has", "triangles have"));
    return finding;
}

Finding measureUvOverlap(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 0);
    const uv::UvFaces& faces = m.uvFaces();
    const uv::Overlap overlap = uv::overlapOf(faces);
    Finding finding;
    finding.value = 100 * overlap.share;
    finding.holds = finding.value <= most;
    finding.share = most > 0 ? finding.value / most : 0;
    finding.canBeTight = most > 0;
    finding.measured = overlap.faces.empty() ? "none" : fmt::format("{} %", showNumber(finding.value, 1));
    finding.limit = most > 0 ? fmt::format("of {} %", showNumber(most, 1)) : "none";
    finding.note = overlap.faces.empty()
                       ? "No two triangles lie on the same part of a picture"
                       : fmt::format("{} on the same part of a picture as others: {} % of what is used",
                                     showCount(long(overlap.faces.size()), "triangle lies", "triangles lie"),
                                     showNumber(finding.value, 1));
    for (const std::uint32_t f : overlap.faces)
        finding.faces.push_back({faces.faces[f].node, faces.faces[f].triangle});
    return finding;
}

Finding measureTexelDensity(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const Model& model = m.model();
    const uv::UvFaces& faces = m.uvFaces();
    std::map<std::pair<int, int>, Worn> worn; // by node and material
    Worn all;
    bool plain = false;
    for (const uv::UvFace& face : faces.faces) {
        if (!isOnPicture(model, face)) continue;
        if (showsOnePixel(face)) {
            plain = true;
            continue;
        }
        const glm::dvec2 pixels = uv::leadingPixels(model, face.material);
        const double texels = 0.5 * std::abs(uv::doubleUvArea(face)) * pixels.x * pixels.y;
        Worn& part = worn[{face.node, face.material}];
        part.texels += texels, part.area += face.area;
        all.texels += texels, all.area += face.area;
    }
    Finding finding;
    finding.low = rule.limit("least", 0), finding.high = rule.limit("most", 1e9);
    finding.limit = fmt::format("{}–{}", showNumber(finding.low, 0), showNumber(finding.high, 0));
    finding.value = all.density();
    if (worn.empty()) {
        finding.value = finding.low;
        finding.measured = plain ? "plain" : "no picture";
        finding.note = plain ? "Every face shows one pixel of its picture: plain colours have no grain"
                             : "No part wears a picture";
        finding.canBeTight = false;
        return finding;
    }
    finding.measured = fmt::format("{} a metre", showNumber(finding.value, 0));
    const auto nameOf = [&](const auto& entry) {
        return fmt::format("\"{}\" of \"{}\" with {}", model.materials[std::size_t(entry.first.second)].name,
                           model.nodes[std::size_t(entry.first.first)].name,
                           showNumber(entry.second.density(), 0));
    };
    const auto by = [](const auto& entry) { return entry.second.density(); };
    const auto coarsest = std::ranges::min_element(worn, {}, by);
    const auto finest = std::ranges::max_element(worn, {}, by);
    for (const auto& [part, is] : worn)
        if (is.density() < finding.low || is.density() > finding.high) finding.holds = false;
    for (const uv::UvFace& face : faces.faces) {
        const auto part = worn.find({face.node, face.material});
        if (part == worn.end() || showsOnePixel(face)) continue;
        const double density = part->second.density();
        if (density < finding.low || density > finding.high)
            finding.faces.push_back({face.node, face.triangle});
    }
    finding.note = coarsest == finest ? fmt::format("{} pixels along a metre", nameOf(*finest))
                                      : fmt::format("From {} to {} pixels along a metre", nameOf(*coarsest),
                                                    nameOf(*finest));
    // The gauge shows what is out, not a mean that hides it.
    if (by(*coarsest) < finding.low)
        finding.value = by(*coarsest);
    else if (by(*finest) > finding.high)
        finding.value = by(*finest);
    if (!finding.holds) finding.measured = fmt::format("{} a metre", showNumber(finding.value, 0));
    return finding;
}

} // namespace zl::platform
