#include "core/learn/count_kinds.h"

#include "core/base/units.h"
#include "core/learn/all_properties.h"
#include "core/learn/round_limit.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::learn {

namespace {

using platform::RuleSpec;
using platform::Severity;

template <class Get>
std::optional<double> ofModel(const FileFacts& file, const Get& get) {
    if (!file.hasShape()) return std::nullopt;
    return double(get(*file.model));
}

} // namespace

const std::vector<CountKind>& countKinds() {
    using F = const FileFacts&;
    using M = const ModelFacts&;
    static const std::vector<CountKind> list{
        {"triangles",
         "Triangles",
         "triangle",
         "triangles",
         [](F f) { return ofModel(f, [](M m) { return m.triangles; }); },
         "triangles",
         "most",
         {},
         true,
         true},
        {"triangles-an-object",
         "Triangles an object",
         "triangle",
         "triangles",
         [](F f) -> std::optional<double> {
             if (!f.model || f.isBody || f.model->objects < 2) return std::nullopt;
             return double(f.model->mostTriangles);
         },
         "triangles",
         "most",
         {{"per-object", 1}},
         false},
        {"corners",
         "Corners of a mesh",
         "corner",
         "corners",
         [](F f) { return ofModel(f, [](M m) { return m.mostCorners; }); },
         "corners",
         "most",
         {}},
        {"objects",
         "Objects",
         "object",
         "objects",
         [](F f) { return ofModel(f, [](M m) { return m.objects; }); },
         "objects",
         "most",
         {}},
        {"materials",
         "Materials",
         "material",
         "materials",
         [](F f) { return ofModel(f, [](M m) { return m.materials; }); },
         "materials",
         "most",
         {},
         true,
         true},
        {"materials-an-object",
         "Materials an object",
         "material",
         "materials",
         [](F f) { return ofModel(f, [](M m) { return m.mostMaterials; }); },
         "materials",
         "most",
         {{"per-object", 1}},
         false},
        {"uv-sets", "UV sets", "UV set", "UV sets",
         [](F f) { return ofModel(f, [](M m) { return m.uvSets; }); }, nullptr},
        {"bones", "Bones", "bone", "bones",
         [](F f) -> std::optional<double> {
             if (!f.model || f.isBody || f.model->bones == 0) return std::nullopt;
             return double(f.model->bones);
         },
         "bones"},
        {"weights-a-corner", "Weights a corner", "weight", "weights",
         [](F f) -> std::optional<double> {
             if (!f.model || f.isBody || f.model->weights == 0) return std::nullopt;
             return double(f.model->weights);
         },
         "weights-a-corner"},
        {"morphs", "Morph targets", "morph target", "morph targets",
         [](F f) { return ofModel(f, [](M m) { return m.morphs; }); }, nullptr},
        {"clips", "Clips", "clip", "clips", [](F f) { return ofModel(f, [](M m) { return m.clips; }); },
         nullptr},
        {"keys", "Keys of all clips", "key", "keys",
         [](F f) -> std::optional<double> {
             if (!f.model || f.isBody || f.model->keys == 0) return std::nullopt;
             return double(f.model->keys);
         },
         "keys"},
        {"clip-length", "Longest clip", "s", "s",
         [](F f) -> std::optional<double> {
             if (!f.model || f.model->clips == 0) return std::nullopt;
             return f.model->longestClip;
         },
         nullptr},
        {"folder-depth", "Folders within folders", "folder", "folders",
         [](F f) -> std::optional<double> { return double(std::ranges::count(f.path, '/')); }, nullptr},
        {"slivers",
         "Faces without area",
         "face",
         "faces",
         [](F f) { return ofModel(f, [](M m) { return m.slivers; }); },
         "slivers",
         "most",
         {}},
        {"picture-edge",
         "Longest edge of a picture",
         "px",
         "px",
         [](F f) -> std::optional<double> {
             double most = 0;
             if (f.picture) most = std::max(f.picture->width, f.picture->height);
             if (f.model)
                 for (const PictureFacts& p : f.model->inside)
                     most = std::max({most, double(p.width), double(p.height)});
             return most > 0 ? std::optional(most) : std::nullopt;
         },
         "picture-edge",
         "most",
         {}},
        {"file-size", "Size of a model file", "MB", "MB",
         [](F f) -> std::optional<double> {
             if (!f.model) return std::nullopt;
             return double(f.bytes) / 1e6;
         },
         nullptr},
        {"picture-size", "Size of a picture file", "MB", "MB",
         [](F f) -> std::optional<double> {
             if (!f.picture) return std::nullopt;
             return double(f.bytes) / 1e6;
         },
         nullptr},
    };
    return list;
}

const CountKind* countKind(std::string_view id) {
    for (const CountKind& kind : countKinds())
        if (kind.id == id) return &kind;
    return nullptr;
}

std::string showCounted(const CountKind& count, double value) {
    return fmt::format("{} {}", showNumber(value, value < 10 && value != std::floor(value) ? 2 : 0),
                       value == 1 ? count.one : count.many);
}

std::optional<Offer> limitOffer(const CountKind& count, const Property& property,
                                std::optional<double> refused, bool perObject) {
    if (property.accepted.empty() || !count.check || !count.offers) return std::nullopt;
    // Of what is a fault none is a limit, and some are none; of the rest it is the other way round.
    const bool isFault = std::string_view(count.check) == "slivers";
    if (isFault != (property.most == 0)) return std::nullopt;
    const std::size_t all = property.accepted.size();
    // Nothing at all of it, or one of it everywhere, is a limit by itself.
    const bool flat = property.most <= 1 || (property.most == property.least && property.most < 8 && all > 2);
    const RoundLimit round = flat && !refused ? RoundLimit{property.most, true}
                                              : roundLimit(std::max(property.most, 1e-9), refused);
    RuleSpec rule;
    rule.id = property.id, rule.check = count.check, rule.label = property.label;
    rule.limits = count.more;
    if (count.ofObjects && perObject) rule.limits["per-object"] = 1;
    rule.limits[count.limit] = round.limit;
    rule.mends = usualMends(count.check);
    rule.message = property.most == 0 ? fmt::format("No file that the game took has any {}.", count.many)
                                      : fmt::format("No file that the game took has more than {}.",
                                                    showCounted(count, property.most));
    Offer out;
    out.isSure = refused || (round.isNear && all >= 3);
    rule.severity = out.isSure ? Severity::Must : Severity::Should;
    out.confidence = fmt::format("{} {} at most {}", shareWords(all, all, "file", "files"),
                                 all == 1 ? "has" : "have", showCounted(count, round.limit));
    if (refused)
        out.confidence += fmt::format("; one with {} was refused", showCounted(count, *refused));
    else if (!round.isNear)
        out.confidence += fmt::format("; nobody was near it: the most is {}", showNumber(property.most, 2));
    out.rule = std::move(rule);
    return out;
}

} // namespace zl::learn
