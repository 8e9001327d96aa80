#include "core/steps/build_of_blocks.h"

#include "core/base/words.h"
#include "core/blocks/greedy_mesh.h"
#include "core/blocks/pieces.h"
#include "core/blocks/plane.h"
#include "core/blocks/solid.h"
#include "core/geometry/world.h"

#include <glm/gtc/matrix_transform.hpp>

#include <set>

namespace zl::steps {

namespace {

blocks::Size sizeOf(const BuildOfBlocks& step, StepContext& context) {
    using By = BuildOfBlocks::By;
    blocks::Size out;
    out.axis = int(step.axis);
    switch (step.by) {
    case By::Blocks:
        out.by = blocks::Size::By::Blocks, out.value = step.blocks;
        break;
    case By::Length:
        out.by = blocks::Size::By::Metres, out.value = step.length;
        break;
    case By::Like: {
        const Companion known = context.input(step.like);
        out.by = blocks::Size::By::Metres, out.value = geometry::worldBounds(*known.model).size()[out.axis];
        if (!(out.value > 0))
            throw Error(known.name + " has no extent along that axis", std::string(step.info.id),
                        "Choose another axis, or another model.");
        break;
    }
    case By::Factor:
        out.by = blocks::Size::By::Factor, out.value = step.factor;
        break;
    }
    return out;
}

blocks::Wanted wantedOf(const BuildOfBlocks& step, StepContext& context) {
    blocks::Wanted out;
    const platform::SheetBlocks given = context.sheet ? context.sheet->blocks : platform::SheetBlocks();
    if (given.edge > 0) out.edge = given.edge;
    out.paints = given.paints;
    out.size = sizeOf(step, context);
    out.slopes = step.slopes;
    out.halves.reset();
    if (step.both != BuildOfBlocks::Both::No) out.halves = blocks::Halves(step.both);
    if (step.where == BuildOfBlocks::Where::Given) out.plane = step.plane;
    out.wall = step.inside == BuildOfBlocks::Inside::Full ? 0 : step.wall;
    out.braces = step.inside == BuildOfBlocks::Inside::Braces;
    out.thin = {step.thin == BuildOfBlocks::Thin::One ? step.thinner : 0, step.side};
    out.strays = std::size_t(step.strays);
    return out;
}

std::string percent(double share) {
    return showNumber(100 * share, 1) + "\u00a0%";
}

/// What stays behind, in words; empty where nothing does.
std::string leftBehind(const Model& in) {
    std::set<std::string> what; // of meshes
    std::size_t keys = 0;
    geometry::forEachShownMesh(in, [&](int node, const Mesh& mesh, const glm::dmat4&) {
        if (!mesh.uvSets.empty()) what.insert("UVs");
        if (!mesh.tangents.empty()) what.insert("tangents");
        if (!mesh.colours.empty()) what.insert("colours of corners");
        if (!mesh.morphs.empty()) what.insert("morph targets");
        if (in.nodes[std::size_t(node)].skin >= 0) what.insert("bones");
    });
    if (!usedImages(in).empty()) what.insert("pictures");
    if (!in.materials.empty()) what.insert("materials");
    for (const auto& clip : in.clips) keys += clip->channels.size();
    if (!in.clips.empty())
        what.insert(showCount(long(in.clips.size()), "clip", "clips") + (keys ? " with all keys" : ""));
    if (!in.colliders.empty()) what.insert(showCount(long(in.colliders.size()), "collider", "colliders"));
    return inARow(what);
}

} // namespace

Model BuildOfBlocks::apply(const Model& in, StepContext& context) const {
    const blocks::Wanted wanted = wantedOf(*this, context);
    blocks::Made made = blocks::made(in, wanted, context.progress.between(0, 0.95));
    const glm::ivec3 size = made.hull.build.size();
    const glm::dvec3 metres = glm::dvec3(size) * wanted.edge;
    const std::size_t count = made.hull.build.count(), before = count + made.hollowed;
    const double volume = std::max(made.volume, 1e-9);

    std::string bounds;
    if (context.sheet)
        for (const platform::RuleSpec* rule : context.sheet->rulesOf("block-bounds"))
            bounds = fmt::format(", of at most {} × {} × {}", rule->limit("across", 0), rule->limit("up", 0),
                                 rule->limit("along", 0));
    context.note(fmt::format("{} × {} × {} blocks = {} × {} × {} m, {} times as large{}", size.x, size.y,
                             size.z, showNumber(metres.x), showNumber(metres.y), showNumber(metres.z),
                             showMeasure(made.factor), bounds));
    if (by == By::Blocks && size[int(axis)] < blocks)
        context.note(fmt::format("{} were asked for; its ends are too thin to fill a block", blocks));
    context.note(fmt::format("{} of {} → {}; volume off by {}",
                             showCount(long(made.objects), "object", "objects"),
                             showCount(long(triangleCount(in)), "triangle", "triangles"),
                             showCount(long(count), "block", "blocks"), percent(made.error / volume)));
    context.note(fmt::format(
        "differs most by {} = {} m, where {}", showCount(std::lround(made.largest.blocks), "block", "blocks"),
        showNumber(made.largest.blocks * wanted.edge),
        made.largest.isLeftOut ? "a surface has no block near to it" : "a block has no surface near to it"));
    if (where == Where::Found && std::abs(made.plane) > 0.01 * wanted.edge)
        context.note(fmt::format("centre line found at X {}", context.showLength(made.plane)));
    if (wanted.halves && made.ofLeft != made.ofRight)
        context.note(fmt::format("left side on both: {} off, right side: {}", percent(made.ofLeft / volume),
                                 percent(made.ofRight / volume)));
    if (wanted.halves && made.unlike / 2 > blocks::lopsided) {
        context.note(fmt::format("its sides differ by {}: it may not be meant to be alike on both",
                                 percent(made.unlike / 2)));
        context.offer("Leave both sides as they are", {{"both", "no"}});
    }
    if (made.unsure > 0) context.note("open in places: what is inside was told by winding numbers");
    if (made.sheets > 0)
        context.note(fmt::format("{} nothing and became one block thick",
                                 showCount(long(made.sheets), "part encloses", "parts enclose")));
    if (made.bridges > 0)
        context.note(fmt::format("{} in, where blocks met at an edge only",
                                 showCount(long(made.bridges), "block was put", "blocks were put")));
    std::size_t dropped = 0;
    auto strayList = nlohmann::json::array();
    for (const blocks::Stray& one : made.strays) {
        dropped += one.blocks;
        const glm::dvec3 at = one.at + made.origin;
        strayList.push_back({{"blocks", one.blocks}, {"at", {at.x, at.y, at.z}}});
    }
    if (dropped > 0)
        context.note(fmt::format("{} dropped in {}", showCount(long(dropped), "stray block", "stray blocks"),
                                 showCount(long(made.strays.size()), "piece", "pieces")));
    if (const std::string left = leftBehind(in); !left.empty()) context.note("stays behind: " + left);

    const auto kinds = made.hull.build.countByKind();
    nlohmann::json byKind = nlohmann::json::object();
    for (std::size_t kind = 0; kind < kinds.size(); ++kind)
        byKind[std::string(blocks::kindNames[kind])] = kinds[kind];
    context.facts["size"] = {size.x, size.y, size.z};
    context.facts["metres"] = {metres.x, metres.y, metres.z};
    context.facts["factor"] = made.factor;
    context.facts["count"] = count;
    context.facts["byKind"] = std::move(byKind);
    context.facts["components"] = blocks::piecesOf(made.hull.build).blocks.size();
    context.facts["symmetric"] = blocks::isSymmetric(made.hull.build);
    context.facts["volumeError"] = made.error / volume;
    context.facts["left"] = made.ofLeft / volume;
    context.facts["right"] = made.ofRight / volume;
    context.facts["plane"] = made.plane;
    context.facts["strays"] = std::move(strayList);
    const glm::dvec3 furthest = made.largestAt + made.origin;
    context.facts["largest"] = {{"blocks", made.largest.blocks},
                                {"metres", made.largest.blocks * wanted.edge},
                                {"leftOut", made.largest.isLeftOut},
                                {"at", {furthest.x, furthest.y, furthest.z}}};
    context.facts["withoutSlopes"] = made.withoutSlopes;
    context.facts["withoutHollow"] = before;
    if (context.sheet)
        context.facts["kilograms"] = blocks::volumeOf(made.hull.build) * context.sheet->blocks.kilograms;

    Model out = blocks::modelOf(std::move(made.hull), in.name);
    out.format = in.format, out.files = in.files, out.dropped = in.dropped, out.warnings = in.warnings;
    out.frame = in.frame, out.headingKnown = in.headingKnown;
    out.placement = glm::translate(glm::dmat4(1), made.origin);
    out.travelled = glm::scale(glm::dmat4(1), glm::dvec3(made.factor)) * in.travelled;
    return out;
}

} // namespace zl::steps
