// `cost`: what copies of a piece take on a platform.
#include "cli/commands/all_commands.h"
#include "cli/one_piece.h"

#include "core/base/error.h"
#include "core/platform/cost.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class CostOfCopies : public Command {
public:
    std::string name() const override { return "cost"; }
    std::string help() const override { return "say what copies of a piece take on a platform"; }
    void declare(CLI::App& app) override {
        chosen_.declare(app, archives);
        app.add_option("--copies", copies_, "how many stand in the world")
            ->check(CLI::Range(1, 1000000))
            ->capture_default_str();
    }

    int execute(const Progress& progress) override {
        chosen_.open();
        const platform::Sheet& sheet = chosen_.sheet();
        const std::string& piece = chosen_.piece().name;
        const platform::Cost cost = platform::costOf(chosen_.model(progress), sheet);
        const auto limits = platform::costLimits(cost, sheet.cost);
        bool holds = true;
        for (const auto& limit : limits) holds = holds && !(limit.shared && *limit.shared < copies_);
        if (json)
            print(document(piece, sheet, cost, limits, holds));
        else
            say(piece, sheet, cost, limits);
        return holds ? Fine : DoesNotFit;
    }

private:
    nlohmann::ordered_json document(const std::string& piece, const platform::Sheet& sheet,
                                    const platform::Cost& cost,
                                    const std::vector<platform::CostLimit>& limits, bool holds) const {
        nlohmann::ordered_json out{{"piece", piece},
                                   {"platform", sheet.id},
                                   {"copies", copies_},
                                   {"fits", holds},
                                   {"triangles", cost.triangles},
                                   {"uploadBytes", cost.upload},
                                   {"meshBytes", cost.mesh},
                                   {"qualities", nlohmann::ordered_json::array()},
                                   {"limits", nlohmann::ordered_json::array()}};
        for (const auto& quality : cost.qualities) {
            nlohmann::ordered_json told{{"name", quality.name},
                                        {"pictureEdge", quality.edge},
                                        {"usual", &quality == &cost.usual()},
                                        {"pictureBytes", quality.pictures},
                                        {"oneBytes", cost.memory(1, true, quality, sheet.cost)},
                                        {"sharedBytes", cost.memory(copies_, true, quality, sheet.cost)},
                                        {"uniqueBytes", cost.memory(copies_, false, quality, sheet.cost)}};
            if (const auto frame = cost.frame(copies_, true, quality, sheet.cost))
                told["frameMilliseconds"] = *frame;
            out["qualities"].push_back(std::move(told));
        }
        for (const auto& limit : limits) {
            nlohmann::ordered_json told{{"what", limit.what},
                                        {"most", limit.most},
                                        {"one", limit.one},
                                        {"copiesShared", nullptr},
                                        {"copiesUnique", nullptr}};
            if (limit.shared) told["copiesShared"] = *limit.shared;
            if (limit.unique) told["copiesUnique"] = *limit.unique;
            out["limits"].push_back(std::move(told));
        }
        return out;
    }

    void say(const std::string& piece, const platform::Sheet& sheet, const platform::Cost& cost,
             const std::vector<platform::CostLimit>& limits) const {
        std::cout << fmt::format("{} on {}: {} triangles, about {} to upload\n", piece, sheet.name,
                                 showNumber(double(cost.triangles), 0), showBytes(cost.upload));
        for (const auto& quality : cost.qualities) {
            std::cout << fmt::format(
                "  {:<14}{} pictures {:>10}  one {:>10}  {} shared {:>10}  each its own {:>10}", quality.name,
                &quality == &cost.usual() ? " *" : "  ", showBytes(quality.pictures),
                showBytes(cost.memory(1, true, quality, sheet.cost)), copies_,
                showBytes(cost.memory(copies_, true, quality, sheet.cost)),
                showBytes(cost.memory(copies_, false, quality, sheet.cost)));
            if (const auto frame = cost.frame(copies_, true, quality, sheet.cost))
                std::cout << fmt::format("  {} ms", showMeasure(*frame));
            std::cout << '\n';
        }
        if (cost.qualities.size() > 1)
            std::cout << "  * what the importer takes unless a setting is changed\n";
        if (limits.empty()) std::cout << "  the platform says nothing of what it can hold\n";
        for (const auto& limit : limits) {
            const auto show = [&](double value) {
                return limit.what == "frame" ? showMeasure(value) + " ms" : showBytes(value);
            };
            const auto told = [](const std::optional<long long>& copies) {
                return copies ? showNumber(double(*copies), 0) : std::string("any number");
            };
            std::cout << fmt::format(
                "  {:<8} {:>10} of {:>10}: holds {} as one piece, {} as pieces of their own\n", limit.what,
                show(limit.one), show(limit.most), told(limit.shared), told(limit.unique));
        }
    }

    OnePiece chosen_;
    int copies_ = 1;
};

} // namespace

std::unique_ptr<Command> makeCost() {
    return std::make_unique<CostOfCopies>();
}

} // namespace zl::cli
