#include "core/learn/game_said.h"

#include "core/base/toml_text.h"
#include "core/base/units.h"
#include "core/base/words.h"
#include "core/learn/all_properties.h"
#include "core/learn/count_kinds.h"
#include "core/learn/evidence.h"
#include "core/learn/round_limit.h"
#include "core/learn/sheet_from.h"
#include "core/platform/sheet_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

namespace zl::learn {

namespace {

using platform::GameAnswer;
using platform::Sheet;

constexpr std::size_t mostWords = 12; ///< of one property that are kept

/// A property of words that few pieces differ in by themselves; names, paths and texts all do.
struct WordKind {
    const char *id, *label;
    const char* check;   ///< kind of rule that wants what was taken; null: none does
    const char* alone;   ///< the only word of what was taken for the rule to be offered; null: any
    const char* message; ///< why
};
constexpr WordKind wordKinds[] = {
    {"picture-format", "Kinds of pictures", "picture-format", nullptr,
     "The game took no other kinds of pictures."},
    {"power-of-two", "Sides of pictures", "power-of-two", "powers of two",
     "All pictures that the game took have such sides."},
    {"alpha", "Alpha of pictures", "alpha-unwanted", "none", "No picture that the game took has alpha."},
    {"up", "Up axis", nullptr, nullptr, nullptr},
    {"front", "Front", nullptr, nullptr, nullptr},
};

const WordKind* wordKind(std::string_view id) {
    for (const WordKind& kind : wordKinds)
        if (kind.id == id) return &kind;
    return nullptr;
}

std::string wordOf(const WordKind& kind, const Seen& seen) {
    if (std::string_view(kind.id) == "power-of-two" && seen.value == 0) return kind.alone;
    // An axis comes with what it was seen by.
    return kind.check ? seen.text : seen.text.substr(0, seen.text.find_first_of(" ,"));
}

/// What was taken, of one property that is a number.
Property taken(const CountKind& kind, const Sheet& sheet) {
    Property out{kind.id, kind.label, kind.many};
    const auto add = [&out](double value) { out.accepted.push_back({0, value, {}}); };
    for (const auto& known : sheet.evidence)
        if (known.of == kind.id && known.least && known.most) {
            add(*known.least), add(*known.most);
            // As many as there were, so that the words say how many: the middle one stands for the rest.
            for (std::size_t i = 2; i < std::min<std::size_t>(known.files, 100'000); ++i)
                add(known.middle.value_or(*known.most));
        }
    for (const GameAnswer& answer : sheet.answers)
        if (const auto found = answer.numbers.find(kind.id); answer.accepted && found != answer.numbers.end())
            add(found->second);
    summarise(out);
    return out;
}

std::optional<Difference> numberDifference(const CountKind& kind, double value, const Sheet& sheet) {
    const Property accepted = taken(kind, sheet);
    if (accepted.accepted.empty() || (value >= accepted.least && value <= accepted.most)) return std::nullopt;
    Difference out{kind.id, kind.label};
    const std::string least = showNumber(accepted.least, 2), most = showCounted(kind, accepted.most);
    const std::string range = most.starts_with(least + " ") ? most : fmt::format("{} to {}", least, most);
    out.said = fmt::format("{}; what the game took has {}", showCounted(kind, value), range);
    const bool above = value > accepted.most;
    const auto stricter = [&](const platform::RuleSpec* rule) {
        return rule->limit(kind.limit, value) < value;
    };
    const bool isForeseen = kind.check && std::ranges::any_of(sheet.rulesOf(kind.check), stricter);
    // Nothing at all against something is worth as much as four times as many.
    const double near = above ? accepted.most : accepted.least;
    const double ratio = above ? value / near : near / value;
    out.tells = std::isfinite(ratio) ? std::abs(std::log2(ratio)) : 2;
    if (!above && out.tells < 2) return std::nullopt; // somewhat less of it is what no game minds
    if (above && !isForeseen) {
        const bool perObject = std::ranges::any_of(
            sheet.rulesOf(kind.check ? kind.check : ""),
            [](const platform::RuleSpec* rule) { return rule->limit("per-object", 0) > 0; });
        if (auto offer = limitOffer(kind, accepted, value, perObject)) {
            out.limit = std::move(offer->rule);
            // Between what was taken and what was not nobody knows: the limit is no lower than it must be.
            out.limit->limits[kind.limit] = roundLimit(std::max(accepted.most, 0.75 * value), value).limit;
            out.confidence = fmt::format("it took {} and refused {}", showCounted(kind, accepted.most),
                                         showCounted(kind, value));
        }
    }
    return out;
}

std::set<std::string> wordsIn(const std::string& row) {
    std::set<std::string> out;
    for (std::size_t start = 0; start < row.size();) {
        const std::size_t end = std::min(row.find(", ", start), row.size());
        out.insert(row.substr(start, end - start));
        start = end + 2;
    }
    return out;
}

std::optional<Difference> wordDifference(const WordKind& kind, const std::string& row, const Sheet& sheet) {
    std::set<std::string> known;
    std::size_t taken = 0;
    for (const GameAnswer& answer : sheet.answers)
        if (const auto found = answer.words.find(kind.id); answer.accepted && found != answer.words.end())
            ++taken, known.merge(wordsIn(found->second));
    std::vector<std::string> odd;
    for (const std::string& word : wordsIn(row))
        if (!known.contains(word)) odd.push_back(word);
    if (taken == 0 || odd.empty()) return std::nullopt;
    const std::string had = inARow(std::vector<std::string>(known.begin(), known.end()));
    Difference out{kind.id, kind.label, fmt::format("{}; what the game took has {}", inARow(odd), had), 0.5};
    if (!kind.check || (kind.alone && had != kind.alone)) return out;
    out.limit = usualRule(kind.check, platform::Severity::Must, kind.message);
    if (!kind.alone) out.limit->texts["formats"] = had;
    out.confidence = fmt::format("{} {} {} alone", shareWords(taken, taken, "piece", "pieces"),
                                 taken == 1 ? "has" : "have", had);
    return out;
}

} // namespace

void noteTraits(GameAnswer& answer, const std::filesystem::path& delivered, const Progress& progress) {
    const Evidence evidence = evidenceOf({delivered, {}}, progress);
    answer.numbers.clear(), answer.words.clear();
    for (const Property& property : evidence.properties) {
        if (countKind(property.id)) {
            answer.numbers[property.id] = property.most;
            continue;
        }
        const WordKind* kind = wordKind(property.id);
        if (!kind) continue;
        std::set<std::string> words;
        for (const Seen& seen : property.accepted)
            if (const std::string word = wordOf(*kind, seen); !word.empty() && words.size() < mostWords)
                words.insert(word);
        if (!words.empty())
            answer.words[property.id] = inARow(std::vector<std::string>(words.begin(), words.end()));
    }
}

std::vector<Difference> differences(const GameAnswer& refused, const Sheet& sheet) {
    std::vector<Difference> out;
    for (const auto& [id, value] : refused.numbers)
        if (const auto* kind = countKind(id))
            if (auto one = numberDifference(*kind, value, sheet)) out.push_back(std::move(*one));
    for (const auto& [id, row] : refused.words)
        if (const auto* kind = wordKind(id))
            if (auto one = wordDifference(*kind, row, sheet)) out.push_back(std::move(*one));
    std::ranges::stable_sort(out, std::greater(), &Difference::tells);
    return out;
}

bool knowsAccepted(const Sheet& sheet) {
    return !sheet.evidence.empty() || std::ranges::any_of(sheet.answers, &GameAnswer::accepted);
}

std::string putLimit(platform::SheetText& text, const Sheet& sheet, platform::RuleSpec limit) {
    for (const platform::RuleSpec* rule : sheet.rulesOf(limit.check)) {
        if (rule->limit("per-object", 0) != limit.limit("per-object", 0)) continue;
        const auto index = text.find("rule", "id", rule->id);
        if (!index) continue;
        for (const auto& [name, value] : limit.limits) text.set("rule", *index, name, tomlNumber(value));
        for (const auto& [name, value] : limit.texts) text.set("rule", *index, name, tomlText(value));
        text.set("rule", *index, "message", tomlText(limit.message));
        text.erase("rule", *index, "severity");
        return rule->id;
    }
    const std::string usual = limit.id;
    for (int n = 2; sheet.rule(limit.id); ++n) limit.id = usual + "-" + std::to_string(n);
    text.add("rule", ruleSection(limit));
    return limit.id;
}

} // namespace zl::learn
