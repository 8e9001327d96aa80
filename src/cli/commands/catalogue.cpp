// `catalogue`: what a game's catalogue lists, found by words.
#include "cli/commands/all_commands.h"

#include "core/base/clock.h"
#include "core/catalogue/catalogue.h"
#include "core/files/terms.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class CatalogueOf : public Command {
public:
    std::string name() const override { return "catalogue"; }
    std::string help() const override { return "list the items of a game's catalogue"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "catalogue")->required();
        app.add_option("--find", find_, "beginnings of words in title, code or pack; all items without it");
        app.add_option("--platform", platform_, "whose sheet says what codes mean")
            ->default_val("thistledown");
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const auto sheet = sheetNamed(platform::loadSheets({}, nullptr, sheetWords()), platform_);
        const catalogue::Catalogue opened(file_, files::termsOf(file_).limits, progress);
        const Stopwatch watch;
        const auto found = opened.find(find_);
        const double milliseconds = watch.seconds() * 1000;
        nlohmann::ordered_json out{{"entries", nlohmann::ordered_json::array()},
                                   {"milliseconds", milliseconds}};
        for (const std::uint32_t place : found) {
            const catalogue::Entry& entry = opened.entries()[place];
            const platform::Prefix* prefix = sheet->prefixOf(entry.code);
            const std::string meaning = prefix ? prefix->means : "";
            if (json)
                out["entries"].push_back({{"number", entry.number},
                                          {"code", entry.code},
                                          {"meaning", meaning},
                                          {"title", entry.title},
                                          {"pack", entry.pack},
                                          {"kind", entry.kind},
                                          {"maker", entry.maker}});
            else
                std::cout << fmt::format("  {:>6}  {:<28}  {:<18}  {:<5}  {}{}\n", entry.number, entry.title,
                                         meaning, entry.kind, entry.code,
                                         entry.maker.empty() ? "" : fmt::format("  by {}", entry.maker));
        }
        if (json)
            print(out);
        else
            std::cout << fmt::format("{} of {} in {:.1f} ms\n", found.size(), opened.entries().size(),
                                     milliseconds);
        return Fine;
    }

private:
    std::string file_, find_, platform_;
};

} // namespace

std::unique_ptr<Command> makeCatalogue() {
    return std::make_unique<CatalogueOf>();
}

} // namespace zl::cli
