// For each step, the parameters that a rule asks for.
#include "core/planner/planner.h"

#include "core/geometry/foot.h"
#include "core/geometry/heading.h"
#include "core/geometry/weld.h"

#include <algorithm>

namespace zl::planner {

namespace {

using Json = nlohmann::json;

std::vector<Json> unitAndUp(const Model& model, const platform::Sheet& sheet) {
    if (!model.frame.unitAssumed && !model.frame.upAssumed) return {};
    return {unitAndUpParams(guessFrame(model, sheet).frame)};
}

std::vector<Json> size(const platform::RuleResult& rule, const platform::Sheet& sheet) {
    const platform::RuleSpec* spec = sheet.rule(rule.id);
    const auto middle = [&] { return (spec->limit("least", 0) + spec->limit("most", 0)) / 2; };
    if (spec && (spec->check == "width" || spec->check == "length"))
        return {Json{{"by", spec->check}, {"measure", middle() * sheet.metresPerUnit}}};
    // As tall as a figure, where that is allowed; else the middle of what is.
    double height = sheet.figureHeight;
    if (spec && spec->check == "height" &&
        (height < spec->limit("least", 0) || height > spec->limit("most", 1e9)))
        height = middle();
    return {Json{{"by", "height"}, {"measure", height * sheet.metresPerUnit}}};
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

std::vector<Json> collider(std::string_view own, const Model& model) {
    const geometry::Foot foot = geometry::footOf(model);
    if (foot.empty()) return {};
    const double wide = std::max(foot.width(), foot.depth()), narrow = std::min(foot.width(), foot.depth());
    // A round shape leaves a long foot's corners bare or its sides too wide; a box suits it better.
    const bool longFoot = wide > 1.3 * narrow;
    if (longFoot != (own == "collider-box")) return {};
    return {Json{{"around", "foot"}, {"inset", 0.05}, {"low", true}}};
}

/// As large as the platform takes, with the sides that it wants.
std::vector<Json> pictureSize(const platform::Sheet& sheet) {
    const bool limited = !sheet.rulesOf("picture-edge").empty();
    Json params = limited ? Json{{"goal", "limit"}} : Json{{"goal", "share"}, {"share", 1.0}};
    if (!sheet.rulesOf("power-of-two").empty()) params["sides"] = "nearest";
    return {params};
}

} // namespace

std::vector<Json> proposals(std::string_view id, const platform::RuleResult& rule, const Model& model,
                            const platform::Sheet& sheet) {
    if (id == "unit-and-up") return unitAndUp(model, sheet);
    if (id == "size") return size(rule, sheet);
    if (id == "reduce-triangles") return reduceTriangles(rule, model, sheet);
    if (id == "collider-box" || id == "collider-cylinder") return collider(id, model);
    if (id == "one-material") return oneMaterial(rule, sheet);
    if (id == "picture-size") return pictureSize(sheet);
    if (id == "picture-alpha") return {Json{{"way", "drop"}}};
    if (id == "heading") return heading(model);
    if (id == "rename-parts") return {Json{{"find", "*"}, {"become", "{1}"}, {"legal", true}}};
    if (id == "split-parts") return {Json{{"by", "material"}}};
    if (id == "join-parts" || id == "bake-placement" || id == "remove-wrappers") return {Json::object()};
    if (id == "stand-on-floor" || id == "origin" || id == "weld-and-clean") return {Json::object()};
    return {};
}

} // namespace zl::planner
