// Thirty made-up games whose limits only their example files show: what is learnt of each.
#include "core/deliver/deliver.h"
#include "core/learn/sheet_from.h"
#include "core/formats/format.h"
#include "core/platform/check.h"
#include "standins/stand_in.h"
#include "support/example_sets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace learn_sets_tests {

struct Score {
    int right = 0, all = 0;
    std::string wrong;

    void add(bool isRight, const std::string& what) {
        ++all, right += isRight;
        if (!isRight) wrong += what + "; ";
    }
};

std::string keyOf(const learn::Evidence& evidence, const char* id, const char* key) {
    const auto* property = evidence.property(id);
    if (!property || !property->offered) return {};
    const auto found = property->offered->keys.find(key);
    return found == property->offered->keys.end() ? "" : found->second;
}

const platform::RuleSpec* ruleOf(const learn::Evidence& evidence, const char* id) {
    const auto* property = evidence.property(id);
    return property && property->offered && property->offered->rule ? &*property->offered->rule : nullptr;
}

/// The channels that a packing property offers for the pictures whose path ends so.
std::string packing(const learn::Evidence& evidence, const std::string& ending) {
    for (const auto& property : evidence.properties)
        if (property.id.starts_with("packing:") && property.id.ends_with(ending))
            return property.offered->sections;
    return {};
}

bool saysAll(const std::string& text, const std::vector<std::string>& channels) {
    static constexpr const char* names[] = {"red", "green", "blue", "alpha"};
    for (std::size_t k = 0; k < channels.size(); ++k)
        if (text.find(std::string(names[k]) + " = \"" + channels[k] + "\"") == std::string::npos)
            return false;
    return true;
}

Score scoreOf(const HiddenGame& game, const learn::Evidence& evidence) {
    Score score;
    const double unit = std::strtod(keyOf(evidence, "unit", "unit.metres").c_str(), nullptr);
    score.add(unit > 0.8 * game.metres && unit < 1.25 * game.metres, "unit " + std::to_string(unit));
    score.add(keyOf(evidence, "up", "axes.up") == (game.zUp ? "\"Z\"" : "\"Y\""), "up");
    score.add(keyOf(evidence, "front", "axes.front") == "\"" + game.front + "\"",
              "front " + keyOf(evidence, "front", "axes.front"));
    const auto* triangles = ruleOf(evidence, "triangles");
    score.add(triangles && triangles->limit("most", 0) == game.triangles,
              "triangles " + std::to_string(triangles ? triangles->limit("most", 0) : 0));
    score.add((ruleOf(evidence, "power-of-two") != nullptr) == game.powerOfTwo, "power of two");
    if (game.packing & 1)
        score.add(saysAll(packing(evidence, "_n.png"), game.relief()),
                  "relief " + packing(evidence, "_n.png"));
    if (game.packing & 2)
        score.add(saysAll(packing(evidence, "_props.png"), game.maps()),
                  "maps " + packing(evidence, "_props.png"));
    const auto* names = ruleOf(evidence, "names");
    const std::string pattern = names ? names->texts.at("pattern") : "";
    const char* set = game.names == "underscores" ? "[a-z0-9_]"
                      : game.names == "hyphens"   ? "[a-z0-9-]"
                                                  : "[A-Za-z0-9]";
    const char* letters = game.names == "underscores" ? "[a-z_]" : set; // digits need not come
    score.add(pattern.starts_with(game.prefix) &&
                  (pattern.find(set) != std::string::npos || pattern.find(letters) != std::string::npos),
              "names " + pattern);
    bool model = false, text = game.text == 0;
    std::string paths;
    for (const auto& pattern : evidence.layout.patterns) {
        paths += " " + pattern.path + " (" + std::to_string(pattern.groups) + ")";
        model |= pattern.path == game.modelPath() && pattern.groups == 12;
        text |= game.text > 0 && pattern.path.ends_with(game.textPath()) && pattern.groups == 12;
    }
    score.add(model, "layout" + paths + " for " + game.modelPath());
    if (game.text == 0) return score;
    score.add(text, "text's layout");
    for (const auto& property : evidence.properties)
        if (property.id.starts_with("text:")) {
            const std::string& made = property.offered->sections;
            score.add(property.offered->isSure && made.find("{{name}}") != std::string::npos &&
                          made.find("{{model.file}}") != std::string::npos &&
                          made.find("{{triangles}}") != std::string::npos,
                      "template " + made);
        }
    return score;
}

TEST_CASE("of thirty games, nearly every property is learnt right, and no limit that an example breaks") {
    Score all;
    std::ostringstream wrong;
    for (unsigned seed = 0; seed < 30; ++seed) {
        const TemporaryFolder folder;
        const HiddenGame game = hiddenGame(seed);
        writeAccepted(game, seed, folder / "taken");
        const auto evidence = learn::evidenceOf({folder / "taken", {}});
        CHECK(evidence.unreadable.empty());
        const Score score = scoreOf(game, evidence);
        all.right += score.right, all.all += score.all;
        if (!score.wrong.empty()) wrong << seed << " " << game.format << ": " << score.wrong << "\n";

        std::set<std::string> offered;
        for (const auto& property : evidence.properties)
            if (property.offered) offered.insert(property.id);
        const auto sheet = platform::readSheet(
            folder.write("g.toml", learn::sheetFrom(evidence, {"game", "Game", {}, {}}, offered)),
            deliver::sheetWords(standins::standInIds()));
        for (const auto& file : evidence.files) {
            if (!file.model) continue;
            Model example = formats::readModel(folder / "taken" / file.path);
            SourceFrame frame{{"", "", sheet.metresPerUnit}, sheet.up, false, false};
            const auto report = platform::check(withFrame(std::move(example), frame), sheet);
            for (const auto& rule : report.rules)
                if (rule.severity == platform::Severity::Must) {
                    INFO(seed << " " << file.path << ": " << rule.label << ", " << rule.finding.note);
                    CHECK(rule.state != platform::State::Broken);
                }
        }
    }
    INFO(all.right << " of " << all.all << "\n" << wrong.str());
    CHECK(all.right >= 0.98 * all.all);
    if (std::getenv("SHOW")) WARN(all.right << " of " << all.all << wrong.str());
}

TEST_CASE("with two refused files a limit, each is bracketed by what was taken and what was not") {
    for (unsigned seed = 0; seed < 30; ++seed) {
        const TemporaryFolder folder;
        const HiddenGame game = hiddenGame(seed);
        INFO(seed);
        writeAccepted(game, seed, folder / "taken");
        writeRefused(game, seed, folder / "refused");
        const auto evidence = learn::evidenceOf({folder / "taken", folder / "refused"});
        const auto* triangles = evidence.property("triangles");
        REQUIRE(triangles);
        REQUIRE(triangles->offered);
        double least = 1e9;
        for (const auto& seen : triangles->refused)
            if (seen.value > triangles->most) least = std::min(least, seen.value);
        const double limit = triangles->offered->rule->limit("most", 0);
        CHECK(limit >= triangles->most);
        CHECK(limit < least);
        CHECK(limit == game.triangles);
        CHECK(triangles->offered->rule->severity == platform::Severity::Must);
        const auto* sides = ruleOf(evidence, "power-of-two");
        CHECK((sides != nullptr) == game.powerOfTwo);
        if (sides) CHECK(sides->severity == platform::Severity::Must);
    }
}

} // namespace learn_sets_tests
