// Limits of how many, how much and how large: each line of the table is one property.
#include "core/base/units.h"
#include "core/learn/all_properties.h"
#include "core/learn/round_limit.h"

#include <fmt/format.h>

namespace zl::learn {

namespace {

using platform::RuleSpec;
using platform::Severity;

struct Count {
    const char *id, *label, *one, *many;
    std::optional<double> (*of)(const FileFacts& file);
    const char* check;
    const char* limit = "most";
    std::map<std::string, double> more{}; ///< other limits of the rule
    bool offers = true;
    bool ofObjects = false; ///< of a game that has a file for each object it is each object's
    double least = 0;       ///< below it, it is nothing to limit
};

template <class Get>
std::optional<double> ofModel(const FileFacts& file, const Get& get) {
    if (!file.hasShape()) return std::nullopt;
    return double(get(*file.model));
}

const std::vector<Count>& countKinds() {
    using F = const FileFacts&;
    using M = const ModelFacts&;
    static const std::vector<Count> list{
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

std::string showCounted(const Count& count, double value) {
    return fmt::format("{} {}", showNumber(value, value < 10 && value != std::floor(value) ? 2 : 0),
                       value == 1 ? count.one : count.many);
}

/// What most sets each refused file apart: the property in which it is furthest above all that was accepted,
/// by ratio; of those that are about as far the first, as corners go with triangles.
using SetApart = std::map<std::size_t, std::pair<double, std::string>>; ///< by file

void noteSetApart(const Property& property, SetApart& files) {
    for (const Seen& seen : property.refused) {
        if (seen.value <= property.most) continue;
        const double ratio = seen.value / std::max(property.most, 1e-9);
        auto& most = files[seen.file];
        if (most.second.empty() || ratio > 1.25 * most.first) most = {ratio, property.id};
    }
}

/// The least value for which a file was refused.
std::optional<double> refusedFrom(const Property& property, const SetApart& files) {
    std::optional<double> out;
    for (const Seen& seen : property.refused) {
        const auto apart = files.find(seen.file);
        if (seen.value <= property.most || apart == files.end() || apart->second.second != property.id)
            continue;
        if (!out || seen.value < *out) out = seen.value;
    }
    return out;
}

void offer(const Basis& basis, const Count& count, const SetApart& files, Property& property) {
    if (property.accepted.empty() || !count.check || !count.offers) return;
    if (basis.isByObjects() && std::string_view(count.id) == "objects") return; // each is one
    // Of what is a fault none is a limit, and some are none; of the rest it is the other way round.
    const bool isFault = std::string_view(count.check) == "slivers";
    if (isFault != (property.most == 0)) return;
    const std::size_t all = property.accepted.size();
    const auto refused = refusedFrom(property, files);
    // Nothing at all of it, or one of it everywhere, is a limit by itself.
    const bool flat = property.most <= 1 || (property.most == property.least && property.most < 8 && all > 2);
    const RoundLimit round = flat && !refused ? RoundLimit{property.most, true}
                                              : roundLimit(std::max(property.most, 1e-9), refused);
    RuleSpec rule;
    rule.id = property.id, rule.check = count.check, rule.label = property.label;
    rule.limits = count.more;
    if (count.ofObjects && basis.isByObjects()) rule.limits["per-object"] = 1;
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
    property.offered = std::move(out);
}

} // namespace

void learnCounts(Basis& basis, std::vector<Property>& out) {
    std::vector<std::pair<const Count*, Property>> made;
    SetApart files;
    for (const Count& count : countKinds()) {
        Property property{count.id, count.label, count.many};
        for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
            const FileFacts& file = basis.evidence.files[i];
            if (const auto value = count.of(file))
                (file.refused ? property.refused : property.accepted).push_back({i, *value, {}});
        }
        if (property.accepted.empty()) continue;
        summarise(property);
        if (count.check && count.offers) noteSetApart(property, files);
        made.emplace_back(&count, std::move(property));
    }
    for (auto& [count, property] : made) {
        offer(basis, *count, files, property);
        out.push_back(std::move(property));
    }
}

} // namespace zl::learn
