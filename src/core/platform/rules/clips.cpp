// Rules about movement: which clips there are, that they stay where they are and close, and how much they
// take.
#include "core/platform/rules/all_rules.h"

#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/motion/loop.h"
#include "core/motion/posed.h"
#include "core/motion/travel.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>

#include <algorithm>

namespace zl::platform {

namespace {

/// The clips that a rule is about: those that its text `clips` names, or all.
std::vector<std::shared_ptr<const Clip>> meantBy(const RuleSpec& rule, const Model& model) {
    const auto text = rule.texts.find("clips");
    const NamePatterns wanted(text == rule.texts.end() ? std::vector<std::string>()
                                                       : patternsFrom(text->second));
    std::vector<std::shared_ptr<const Clip>> out;
    for (const auto& clip : model.clips)
        if (wanted.match(clip->name)) out.push_back(clip);
    return out;
}

/// For a rule about clips on a model that has none of them.
Finding noClips() {
    Finding finding;
    finding.canBeTight = false;
    finding.measured = "no clips";
    finding.note = "There is no clip that it is about";
    return finding;
}

} // namespace

Finding measureClipsPresent(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const auto wanted = patternsFrom(rule.texts.at("names"));
    std::vector<std::string> missing;
    for (const std::string& name : wanted)
        if (std::ranges::none_of(m.model().clips, [&](const auto& clip) {
                return matchPattern(name, clip->name).has_value();
            }))
            missing.push_back(name);
    Finding finding;
    finding.canBeTight = false;
    finding.value = double(wanted.size() - missing.size());
    finding.holds = missing.empty();
    finding.measured = missing.empty() ? "all" : fmt::format("{} missing", missing.size());
    finding.limit = fmt::format("all {}", wanted.size());
    finding.note = missing.empty() ? "Every clip that the game plays is there"
                                   : "There is no clip called " + showNames(missing);
    return finding;
}

Finding measureStaysOnSpot(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const auto clips = meantBy(rule, m.model());
    if (clips.empty()) return noClips();
    const double within = rule.limit("within", 0);
    double farthest = 0;
    const Clip* worst = nullptr;
    double seconds = 0;
    Finding finding;
    for (const auto& clip : clips) {
        const motion::Travel travel = motion::travelOf(m.model(), *clip);
        if (travel.groundDrift() <= farthest) continue;
        farthest = travel.groundDrift(), worst = clip.get(), seconds = travel.seconds();
        finding.nodes = {travel.node};
    }
    finding.value = farthest / sheet.metresPerUnit;
    finding.holds = finding.value <= within + 1e-9;
    finding.measured = sheet.showLength(farthest);
    finding.limit = fmt::format("±{}\u202f{}", showNumber(within, 4), sheet.unitName);
    if (finding.holds) finding.nodes.clear();
    finding.note = finding.holds || !worst ? "Every clip ends where it begins"
                                           : fmt::format("\"{}\" drifts {} in {}\u202fs", worst->name,
                                                         sheet.showLength(farthest), showMeasure(seconds));
    return finding;
}

Finding measureLoops(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const auto clips = meantBy(rule, m.model());
    if (clips.empty()) return noClips();
    const double degrees = rule.limit("degrees", 0), within = rule.limit("within", 1e9);
    motion::LoopError most;
    std::string turned, placed;
    for (const auto& clip : clips) {
        const auto own = motion::loopErrorOf(m.model(), *clip);
        if (own.turn > most.turn) most.turn = own.turn, most.turned = own.turned, turned = clip->name;
        if (own.place > most.place) most.place = own.place, most.placed = own.placed, placed = clip->name;
    }
    Finding finding;
    finding.value = glm::degrees(most.turn);
    const bool turns = finding.value > degrees + 1e-9,
               moves = most.place / sheet.metresPerUnit > within + 1e-9;
    finding.holds = !turns && !moves;
    finding.share = degrees > 0 ? finding.value / degrees : 0;
    finding.canBeTight = degrees > 0;
    finding.measured =
        !turns && moves ? sheet.showLength(most.place) : fmt::format("{}°", showMeasure(finding.value));
    finding.limit = !turns && moves ? fmt::format("±{}\u202f{}", showNumber(within, 4), sheet.unitName)
                                    : fmt::format("of {}°", showNumber(degrees, 2));
    if (finding.holds) {
        finding.note = "Every clip ends as it begins";
        return finding;
    }
    const int node = turns ? most.turned : most.placed;
    if (node >= 0) finding.nodes = {node};
    finding.note =
        fmt::format("At the end of \"{}\" \"{}\" is {} from how it begins", turns ? turned : placed,
                    node >= 0 ? m.model().nodes[std::size_t(node)].name : "",
                    turns ? finding.measured : sheet.showLength(most.place));
    return finding;
}

Finding measureKeys(const Measures& m, const Sheet&, const RuleSpec& rule) {
    std::size_t all = 0, most = 0;
    std::string name;
    for (const auto& clip : m.model().clips) {
        const std::size_t keys = motion::keysOf(*clip);
        all += keys;
        if (keys > most) most = keys, name = clip->name;
    }
    Finding finding = atMost(double(all), rule.limit("most", 0), "key", "keys");
    if (most > 0 && m.model().clips.size() > 1)
        finding.note += fmt::format("; most are in \"{}\": {}", name, showNumber(double(most), 0));
    return finding;
}

Finding measureWeightsACorner(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const auto most = std::size_t(std::max(0.0, rule.limit("most", 4)));
    const Model& model = m.model();
    std::size_t worst = 0, over = 0;
    Finding finding;
    for (const int n : shownNodes(model)) {
        const Node& node = model.nodes[std::size_t(n)];
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        if (node.skin < 0 || mesh.weights.empty()) continue;
        std::vector<char> heavy(mesh.vertexCount(), 0);
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
            std::size_t count = 0;
            for (int k = 0; k < 4; ++k) count += mesh.weights[v][k] > 0;
            worst = std::max(worst, count);
            over += heavy[v] = count > most;
        }
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
            if (heavy[mesh.indices[3 * t]] || heavy[mesh.indices[3 * t + 1]] ||
                heavy[mesh.indices[3 * t + 2]])
                finding.faces.push_back({n, std::uint32_t(t)});
    }
    finding.value = double(worst);
    finding.holds = worst <= most;
    finding.canBeTight = false;
    finding.share = most > 0 ? double(worst) / double(most) : 0;
    finding.measured = fmt::format("{}", worst);
    finding.limit = fmt::format("of {} a corner", most);
    finding.note =
        worst == 0 ? "No corner hangs on bones"
        : finding.holds
            ? fmt::format("No corner hangs on more than {}", showCount(long(worst), "bone", "bones"))
            : fmt::format("{} on more than {}", showCount(long(over), "corner hangs", "corners hang"),
                          showCount(long(most), "bone", "bones"));
    return finding;
}

} // namespace zl::platform
