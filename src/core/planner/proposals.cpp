// For each step, the parameters that a rule asks for.
#include "core/planner/planner.h"

#include "core/base/error.h"
#include "core/base/pattern.h"
#include "core/base/plain_number.h"
#include "core/blocks/plane.h"
#include "core/contact/body_mesh.h"
#include "core/contact/surfaces.h"
#include "core/geometry/foot.h"
#include "core/geometry/heading.h"
#include "core/geometry/weld.h"
#include "core/planner/whole_blocks.h"
#include "core/steps/clip_rate.h"
#include "core/steps/picture_kind.h"

#include <algorithm>
#include <bit>

namespace zl::planner {

namespace {

using Json = nlohmann::json;

std::vector<Json> unitAndUp(const Model& model, const platform::Sheet& sheet) {
    if (!model.frame.unitAssumed && !model.frame.upAssumed) return {};
    return {unitAndUpParams(guessFrame(model, sheet).frame)};
}

std::vector<Json> size(const platform::RuleResult& rule, const Model& model, const platform::Sheet& sheet) {
    const platform::RuleSpec* spec = sheet.rule(rule.id);
    const auto middle = [&] { return (spec->limit("least", 0) + spec->limit("most", 0)) / 2; };
    if (spec && (spec->check == "width" || spec->check == "length"))
        return {Json{{"by", spec->check}, {"measure", middle() * sheet.metresPerUnit}}};
    if (spec && spec->check == "whole-blocks" && !model.nodes.empty()) {
        const glm::dvec3 size = geometry::worldBounds(model).size() / sheet.metresPerUnit;
        const auto factor = factorToWhole(size, spec->limit("within", 0.02));
        return {Json{{"by", "height"},
                     {"measure", (factor ? size.y * *factor : std::max(1.0, std::round(size.y))) *
                                     sheet.metresPerUnit}}};
    }
    // As tall as a figure, where that is allowed; else the middle of what is.
    double height = sheet.figureHeight;
    if (spec && spec->check == "height" &&
        (height < spec->limit("least", 0) || height > spec->limit("most", 1e9)))
        height = middle();
    std::vector<Json> out{Json{{"by", "height"}, {"measure", height * sheet.metresPerUnit}}};
    if (spec && spec->check == "size-beside-figure" &&
        !model.nodes.empty()) { // of what lies flat, the longest side
        const glm::dvec3 size = geometry::worldBounds(model).size();
        if (size.y < std::max(size.x, size.z))
            out.push_back({{"by", size.x > size.z ? "width" : "length"},
                           {"measure", sheet.figureHeight * sheet.metresPerUnit}});
    }
    return out;
}

/// Stretched along its sides, where no scale alone makes them whole blocks.
std::vector<Json> reshape(const platform::RuleResult& rule, const Model& model,
                          const platform::Sheet& sheet) {
    const platform::RuleSpec* spec = sheet.rule(rule.id);
    if (!spec || spec->check != "whole-blocks" || model.nodes.empty()) return {};
    const auto bounds = geometry::worldBounds(model);
    const auto stretch = stretchToWhole(bounds.size() / sheet.metresPerUnit);
    if (!stretch) return {};
    return {Json{{"rows", Json::array({{{"low", bounds.min.y},
                                        {"high", bounds.max.y},
                                        {"scale", {stretch->x, stretch->y, stretch->z}}}})}}};
}

std::vector<Json> heading(const Model& model) {
    const auto guess = geometry::guessHeading(model);
    if (!guess) return {};
    const double degrees = glm::degrees(guess->angle);
    static constexpr std::pair<double, const char*> quarters[] = {
        {0, "+z"}, {90, "+x"}, {180, "-z"}, {-90, "-x"}};
    for (const auto& [angle, id] : quarters)
        if (std::abs(std::remainder(degrees - angle, 360)) < 3) return {Json{{"front", id}}};
    return {Json{{"front", "angle"}, {"angle", degrees}}};
}

std::vector<Json> reduceTriangles(const platform::RuleResult& rule, const Model& model,
                                  const platform::Sheet& sheet) {
    if (rule.finding.share <= 1) return {};
    // Text size and corners go with the number of triangles; aim a little below.
    const double wanted = double(triangleCount(model)) / rule.finding.share * 0.95;
    Json params{{"goal", "number"}, {"number", std::max(4, static_cast<int>(wanted))}};
    if (const auto* spec = sheet.rule(rule.id); spec && spec->check == "triangles")
        params = {{"goal", "limit"}};
    Json lettingGo = params; // where open edges hold too much: leaves, grass, sheets of cloth
    lettingGo["hold-borders"] = false;
    return {params, lettingGo};
}

/// First with few repeats of a picture, for that leaves it fine; then with as many as the UVs may want.
std::vector<Json> oneMaterial(const platform::RuleResult& rule, const platform::Sheet& sheet) {
    const platform::RuleSpec* spec = sheet.rule(rule.id);
    const char* scope = spec && spec->limit("per-object", 0) != 0 ? "each" : "all";
    const bool onePicture = std::ranges::any_of(
        sheet.rulesOf("pictures"), [](const auto* pictures) { return pictures->limit("most", 0) <= 1; });
    std::vector<Json> out;
    for (const int repeats : {4, 16, 64, 256})
        out.push_back({{"scope", scope}, {"keep", onePicture ? "colour" : "all"}, {"repeats", repeats}});
    return out;
}

/// What the names of materials say, where they say something.
std::vector<Json> surfaceKind(const Model& model, const platform::Sheet& sheet) {
    auto rows = Json::array();
    for (const auto& [material, kind] : contact::guessedSurfaces(model, sheet.touch))
        rows.push_back({{"material", model.materials[std::size_t(material)].name}, {"kind", kind}});
    if (rows.empty()) return {};
    return {Json{{"by", "materials"}, {"materials", rows}}};
}

std::vector<Json> collider(std::string_view own, const platform::RuleResult& rule, const Model& model) {
    const std::string_view other = own == "collider-box" ? "collider-cylinder" : "collider-box";
    if (std::ranges::find(rule.mends, other) == rule.mends.end()) // where things need not stand by themselves
        return {Json{{"around", "everything"}, {"inset", 0.0}}};
    const geometry::Foot foot = geometry::footOf(model);
    if (foot.empty()) return {};
    const double wide = std::max(foot.width(), foot.depth()), narrow = std::min(foot.width(), foot.depth());
    // A round shape leaves a long foot's corners bare or its sides too wide; a box suits it better.
    const bool longFoot = wide > 1.3 * narrow;
    if (longFoot != (own == "collider-box")) return {};
    return {Json{{"around", "foot"}, {"inset", 0.05}, {"low", true}}};
}

/// Mild ones first: for a limit that several mends approach together.
std::vector<Json> bitByBit(std::string_view id, const Model& model) {
    std::vector<Json> out;
    if (id == "clip-rate")
        for (const double coarser : {1.0, 3.0, 10.0}) {
            const steps::ClipRate usual;
            out.push_back({{"place", coarser * usual.place}, {"turn", coarser * usual.turn}});
        }
    if (id == "picture-size") {
        int edge = 0;
        for (const int image : usedImages(model))
            edge = std::max(
                {edge, model.images[std::size_t(image)]->width, model.images[std::size_t(image)]->height});
        for (int smaller = int(std::bit_floor(unsigned(std::max(edge - 1, 1)))); smaller >= 32; smaller /= 2)
            out.push_back({{"goal", "number"}, {"number", smaller}, {"sides", "down"}});
    }
    if (id == "reduce-triangles")
        for (const double share : {0.9, 0.75, 0.6, 0.45, 0.3})
            out.push_back({{"goal", "share"}, {"share", share}});
    return out;
}

/// As large as the platform takes, with the sides that it wants.
std::vector<Json> pictureSize(const platform::Sheet& sheet) {
    const bool limited = !sheet.rulesOf("picture-edge").empty();
    Json params = limited ? Json{{"goal", "limit"}} : Json{{"goal", "share"}, {"share", 1.0}};
    if (!sheet.rulesOf("power-of-two").empty()) params["sides"] = "nearest";
    return {params};
}

/// As many levels as the rule wants, each two fifths of the one before, or what the rule allows it.
std::vector<Json> levels(const platform::RuleResult& rule, const Model& model, const platform::Sheet& sheet) {
    const platform::RuleSpec* spec = sheet.rule(rule.id);
    const int wanted = std::clamp(spec ? int(spec->limit("least", 3)) : 3, 2, mostLevels);
    std::vector<std::string> most;
    if (spec)
        if (const auto text = spec->texts.find("most"); text != spec->texts.end())
            most = patternsFrom(text->second);
    const double whole = std::max(1.0, double(triangleCount(model)));
    Json rows = Json::array();
    double share = 1;
    for (int level = 1; level < wanted; ++level) {
        share *= 0.4;
        if (std::size_t(level) < most.size())
            if (const auto limit = onlyNumber<double>(most[std::size_t(level)]))
                share = std::min(share, 0.97 * *limit / whole);
        rows.push_back({{"by", "share"}, {"share", std::clamp(share, 0.0001, 1.0)}});
    }
    return {Json{{"levels", rows}}, Json{{"levels", rows}, {"hold-borders", false}}};
}

/// The picture as large on the model as its pixels allow, where they lie too wide or too close.
std::vector<Json> uvPlacement(const platform::RuleResult& rule) {
    const auto& found = rule.finding;
    if (!(found.low >= 0) || !(found.value > 0)) return {};
    const double factor = std::clamp(
        found.value / std::clamp(found.value, std::max(found.low, 1e-6), found.high), 0.001, 1000.0);
    return {Json{{"wider", factor}, {"taller", factor}, {"about", "each"}}};
}

/// New UVs where nothing lies on the old ones: a picture that is worn would lie anywhere on them.
std::vector<Json> uvsAnew(const Model& model) {
    if (!usedImages(model).empty()) return {};
    return {Json{{"by", "islands"}, {"only", "all"}}};
}

/// Slots by the clips' own names, and the first clip where there is none for one.
std::vector<Json> slots(const Model& model) {
    if (model.clips.empty()) return {};
    return {Json::object(), Json{{"others", model.clips.front()->name}}};
}

/// What the rule wants hidden.
std::vector<Json> hide(const platform::RuleResult& rule, const platform::Sheet& sheet) {
    const platform::RuleSpec* spec = sheet.rule(rule.id);
    if (!spec || !spec->texts.contains("names")) return {};
    return {Json{{"of", patternsFrom(spec->texts.at("names"))}}};
}

/// The first kind of picture that the rule allows and the step writes.
std::vector<Json> pictureKind(const platform::RuleResult& rule, const platform::Sheet& sheet) {
    const platform::RuleSpec* spec = sheet.rule(rule.id);
    if (!spec || !spec->texts.contains("formats")) return {};
    for (const std::string& format : patternsFrom(spec->texts.at("formats")))
        for (const auto& choice : steps::PictureKind::kinds)
            if (choice.id == format) return {Json{{"kind", format}}};
    return {};
}

/// As large as it really is where that is known and the platform takes it; else by blocks along its longest
/// side, from many to few.
std::vector<Json> buildOfBlocks(const Model& model, const platform::Sheet& sheet) {
    if (model.blocks || model.nodes.empty() || !(sheet.blocks.edge > 0)) return {};
    const glm::dvec3 size = geometry::worldBounds(model).size();
    const int longest = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    if (!(size[longest] > 0)) return {};
    constexpr double few = 12, many = 100;
    double most = many; // along the longest side
    for (const platform::RuleSpec* rule : sheet.rulesOf("block-bounds")) {
        const glm::dvec3 bounds{rule->limit("across", many), rule->limit("up", many),
                                rule->limit("along", many)};
        for (int axis = 0; axis < 3; ++axis)
            if (size[axis] > 0) most = std::min(most, (bounds[axis] - 1) * size[longest] / size[axis]);
    }
    std::vector<Json> out;
    const double own = size[longest] / sheet.blocks.edge;
    if (!model.frame.unitAssumed && own >= few && own <= most)
        out.push_back({{"by", "factor"}, {"factor", 1.0}});
    static constexpr const char* axes[] = {"across", "up", "along"};
    for (const double share : {1.0, 0.7, 0.5, 0.35, 0.25})
        if (const int blocks = int(share * most); blocks >= 1)
            out.push_back({{"by", "blocks"}, {"axis", axes[longest]}, {"blocks", blocks}});
    // What is not alike on both sides would not be itself any more, and may come apart.
    const Mesh mesh = contact::bodyMesh(model);
    if (blocks::planeOf(mesh, geometry::meshBounds(mesh)).unlike / 2 > blocks::lopsided)
        for (Json& params : out) params["both"] = "no";
    return out;
}

/// Steps that mend by what they do without being told more.
constexpr std::string_view asTheyAre[] = {
    "avatar-licence",    "avatar-setup",   "bake-placement",  "clip-rate",        "collision-mesh",
    "colour-to-picture", "convex-pieces",  "engine-version",  "holder",           "join-parts",
    "loop-clips",        "marks",          "number",          "origin",           "picture-bytes",
    "platform-settings", "relief",         "remove-wrappers", "rigid-segments",   "scale-rig",
    "seamless",          "stand-on-floor", "stand-still",     "stay-on-the-spot", "weld-and-clean"};

std::vector<Json> thoughtOf(std::string_view id, const platform::RuleResult& rule, const Model& model,
                            const platform::Sheet& sheet) {
    const auto* known = sheet.rule(rule.id) ? platform::ruleKind(sheet.rule(rule.id)->check) : nullptr;
    if (known && known->together) return bitByBit(id, model);
    if (std::ranges::find(asTheyAre, id) != std::end(asTheyAre)) return {Json::object()};
    if (id == "unit-and-up") return unitAndUp(model, sheet);
    if (id == "size") return size(rule, model, sheet);
    if (id == "reshape") return reshape(rule, model, sheet);
    if (id == "reduce-triangles") return reduceTriangles(rule, model, sheet);
    if (id == "collider-box" || id == "collider-cylinder") return collider(id, rule, model);
    if (id == "one-material") return oneMaterial(rule, sheet);
    if (id == "picture-size") return pictureSize(sheet);
    if (id == "levels-of-detail") return levels(rule, model, sheet);
    if (id == "uv-placement") return uvPlacement(rule);
    if (id == "uvs-anew") return uvsAnew(model);
    if (id == "picture-kind") return pictureKind(rule, sheet);
    if (id == "corner-weights") {
        const auto* spec = sheet.rule(rule.id);
        return {Json{{"most", std::clamp(int(spec ? spec->limit("most", 4) : 4), 1, 4)}}};
    }
    if (id == "surface-kind") return surfaceKind(model, sheet);
    if (id == "build-of-blocks") return buildOfBlocks(model, sheet);
    if (id == "slots") return slots(model);
    if (id == "rest-pose") return {Json{{"take", known && known->check == "t-pose" ? "level" : "bound"}}};
    if (id == "hide") return hide(rule, sheet);
    if (id == "leave-out-bones") return {Json{{"which", "unused"}}};
    if (id == "picture-alpha") return {Json{{"way", "drop"}}};
    if (id == "heading") return heading(model);
    if (id == "rename-parts") return {Json{{"find", "*"}, {"become", "{1}"}, {"legal", true}}};
    if (id == "split-parts") return {Json{{"by", "material"}}};
    return {};
}

/// A model's own measures, which some go by, may be beyond all that a step takes.
bool isTaken(std::string_view id, const Json& params) {
    try {
        steps::makeStep(id)->setParams(params);
        return true;
    } catch (const Error&) {
        return false;
    }
}

} // namespace

std::vector<Json> proposals(std::string_view id, const platform::RuleResult& rule, const Model& model,
                            const platform::Sheet& sheet) {
    std::vector<Json> out = thoughtOf(id, rule, model, sheet);
    std::erase_if(out, [&](const Json& params) { return !isTaken(id, params); });
    return out;
}

} // namespace zl::planner
