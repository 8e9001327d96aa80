// `world`: what a game's folder has in it, everybody's together.
#include "cli/commands/all_commands.h"

#include "core/install/city.h"
#include "core/platform/sheet.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class World : public Command {
public:
    std::string name() const override { return "world"; }
    std::string help() const override { return "what a game's world has in it: numbers, bodies, places"; }
    void declare(CLI::App& app) override {
        app.add_option("GAME", game_, "the game's folder")->required();
        app.add_option("--platform", platform_, "whose limits count");
    }
    int execute(const Progress& progress) override {
        const auto city = install::readCity(game_, progress);
        const auto sheet = platform::sheetNamed(platform::loadSheets(), platform_);
        const auto rules = sheet->rulesOf("number");
        const int least = rules.empty() ? 1 : int(rules[0]->limit("least", 1)),
                  most = rules.empty() ? 0 : int(rules[0]->limit("most", 0));
        std::vector<int> taken;
        for (const auto& one : city.definitions) taken.push_back(one.number);
        std::ranges::sort(taken);
        const long used = std::ranges::count_if(taken, [&](int n) { return n >= least && n <= most; });
        nlohmann::ordered_json out{{"numbers",
                                    {{"least", least},
                                     {"most", most},
                                     {"free", most - least + 1 - used},
                                     {"first", city.freeNumber(least, most)},
                                     {"taken", taken}}},
                                   {"collisionFiles",
                                    {{"used", city.collisionFiles.size()},
                                     {"limit", sheet->world.collisionFiles},
                                     {"names", nlohmann::ordered_json::array()}}},
                                   {"districts", nlohmann::ordered_json::array()},
                                   {"placements", nlohmann::ordered_json::array()},
                                   {"problems", city.problems}};
        for (const auto& file : city.collisionFiles)
            out["collisionFiles"]["names"].push_back(
                {{"name", file.name}, {"by", file.by}, {"bodies", file.bodies}});
        for (const auto& one : city.districts)
            out["districts"].push_back({{"name", one.name},
                                        {"least", {one.least.x, one.least.y}},
                                        {"most", {one.most.x, one.most.y}}});
        for (const auto& one : city.places)
            out["placements"].push_back({{"name", one.name},
                                         {"at", {one.at.x, one.at.y, one.at.z}},
                                         {"quaternion", {one.turn.x, one.turn.y, one.turn.z, one.turn.w}},
                                         {"district", one.district},
                                         {"file", one.file},
                                         {"line", one.line}});
        if (json) {
            print(out);
            return Fine;
        }
        std::cout << fmt::format("{} objects at {} places in {} districts\n", city.definitions.size(),
                                 city.places.size(), city.districts.size());
        std::cout << fmt::format("numbers {} to {}: {} free, the first is {}\n", least, most,
                                 most - least + 1 - used, city.freeNumber(least, most));
        std::cout << fmt::format("collision files: {} of {}\n", city.collisionFiles.size(),
                                 sheet->world.collisionFiles);
        for (const auto& file : city.collisionFiles)
            std::cout << fmt::format("  {}{}: {}\n", file.name, file.by.empty() ? "" : ", by " + file.by,
                                     fmt::join(file.bodies, ", "));
        for (const std::string& problem : city.problems) std::cout << "  wrong: " << problem << '\n';
        return Fine;
    }

private:
    std::string game_, platform_ = "portcalder";
};

} // namespace

std::unique_ptr<Command> makeWorld() {
    return std::make_unique<World>();
}

} // namespace zl::cli
