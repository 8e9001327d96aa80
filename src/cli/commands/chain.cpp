#include "cli/commands/all_commands.h"
#include "cli/one_piece.h"

#include "core/project/companions.h"
#include "core/chain/chain.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

nlohmann::ordered_json toJson(const chain::Result& result) {
    auto legs = nlohmann::ordered_json::array();
    const auto verdicts = [](const chain::Verdicts& list, bool words) {
        auto out = nlohmann::ordered_json::object();
        for (const auto& [aspect, verdict] : list) {
            if (verdict.fate == chain::Fate::None) continue;
            const std::string id(formats::aspectId(aspect));
            if (words)
                out[id] = {{"state", chain::fateId(verdict.fate)}, {"words", verdict.words}};
            else
                out[id] = chain::fateId(verdict.fate);
        }
        return out;
    };
    for (const auto& leg : result.legs)
        legs.push_back({{"format", leg.format},
                        {"file", leg.file},
                        {"keeps", verdicts(leg.keeps, false)},
                        {"measured", verdicts(leg.measured, true)},
                        {"dropped", leg.dropped}});
    return legs;
}

std::string describe(const chain::Result& result) {
    const auto row = [](std::string_view head, const std::vector<std::string>& cells) {
        std::string line = fmt::format("  {:<16}", head);
        for (const std::string& cell : cells) line += fmt::format("{:<12}", cell);
        return line.erase(line.find_last_not_of(' ') + 1) + "\n";
    };
    std::vector<std::string> formats;
    for (const auto& leg : result.legs) formats.push_back(leg.format);
    std::string out = row("", formats);
    for (const auto aspect : formats::allAspects()) {
        std::vector<std::string> cells;
        std::string words;
        bool any = false;
        for (const auto& leg : result.legs) {
            const auto& measured = leg.measured.at(aspect);
            any |= measured.fate != chain::Fate::None;
            cells.push_back(measured.fate == chain::Fate::None ? "–" : inWords(chain::fateId(measured.fate)));
            if (!measured.words.empty())
                words += fmt::format("  {:<16}  {}: {}\n", "", leg.format, measured.words);
        }
        if (any) out += row(formats::aspectName(aspect), cells) + words;
    }
    return out;
}

namespace {

class Chain : public Command {
public:
    std::string name() const override { return "chain"; }
    std::string help() const override {
        return "go through a chain of formats and say what each leg keeps and loses";
    }
    void declare(CLI::App& app) override {
        chosen_.declare(app, archives);
        app.add_option("--out", out_, "folder for the files of all legs")->required();
        app.add_option("--through", through_,
                       "formats instead of the platform's own chain, like glb,dae,obj");
    }

    int execute(const Progress& progress) override {
        chosen_.open();
        Input& input = chosen_.input();
        const platform::Sheet& sheet = chosen_.sheet();
        const project::Piece& piece = chosen_.piece();
        auto legs = through_.empty() ? sheet.chain : chain::legsFrom(through_);
        if (legs.empty())
            throw Error(fmt::format("{} has no chain of its own", sheet.name), sheet.id,
                        "Say one with --through.");
        const auto plans = chain::planned(legs, &sheet, fileNameFrom(piece.name));
        const auto loaded = input.cache.load(input.project, piece, progress.between(0, 0.2));
        const project::Companions around(input.project, piece, sheet, input.cache, nullptr, progress);
        const auto evaluation =
            recipe::evaluate(chosen_.frame().applied(loaded.model), loaded.hash, recipeFor(piece, sheet.id),
                             {&sheet, &around}, nullptr, progress.between(0.2, 0.4));
        const auto result = chain::run(evaluation.model, plans, out_, progress.between(0.4, 1));
        if (json)
            print({{"piece", piece.name}, {"platform", sheet.id}, {"legs", toJson(result)}});
        else
            std::cout << describe(result);
        return Fine;
    }

private:
    OnePiece chosen_;
    std::string out_, through_;
};

} // namespace

std::unique_ptr<Command> makeChain() {
    return std::make_unique<Chain>();
}

} // namespace zl::cli
