// `package`: the resources of an item of a game, what they refer to, and copies under new names.
#include "cli/commands/all_commands.h"

#include "core/base/file_set.h"
#include "core/base/units.h"
#include "core/files/terms.h"
#include "core/package/make_mine.h"
#include "core/package/reference_check.h"
#include "core/package/references.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class PackageOf : public Command {
public:
    std::string name() const override { return "package"; }
    std::string help() const override { return "list, check or copy a game's package of resources"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "package")->required();
        app.add_flag("--check", check_, "end with 1 where a reference is wrong or a number is used twice");
        auto* mine = app.add_option("--mine", mine_, "copy it under this name");
        auto* maker = app.add_option("--maker", maker_, "whose the copy is");
        auto* out = app.add_option("--out", out_, "the copy's file");
        mine->needs(maker)->needs(out);
        maker->needs(mine);
        out->needs(mine);
        app.add_option("--platform", platform_, "whose codes stay in front of names")
            ->default_val("thistledown");
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const auto opened = package::readPackage(file_, files::termsOf(file_).limits, progress);
        return mine_.empty() ? list(opened, progress) : copy(opened, progress);
    }

private:
    int list(const package::Package& opened, const Progress& progress) {
        const package::Links links(opened);
        const auto checked = checkReferences(opened, package::indicesBeside(opened.file, progress));
        if (json) {
            nlohmann::ordered_json out{{"resources", nlohmann::ordered_json::array()}};
            const auto keys = [&](const std::vector<std::size_t>& places) {
                auto list = nlohmann::ordered_json::array();
                for (const std::size_t r : places) list.push_back(textOf(opened.resources[r].key));
                return list;
            };
            for (std::size_t r = 0; r < opened.resources.size(); ++r) {
                const package::Resource& resource = opened.resources[r];
                out["resources"].push_back({{"kind", files::kindWord(resource.key.kind)},
                                            {"group", resource.key.group},
                                            {"number", fmt::format("{:016x}", resource.key.number)},
                                            {"name", resource.name},
                                            {"bytes", resource.bytes->size()},
                                            {"refersTo", keys(links.refersTo(r))},
                                            {"referredBy", keys(links.referredBy(r))}});
            }
            addFindings(out, checked);
            print(out);
        } else {
            for (std::size_t r = 0; r < opened.resources.size(); ++r) {
                const package::Resource& resource = opened.resources[r];
                std::string to;
                for (const std::size_t other : links.refersTo(r))
                    to += (to.empty() ? "  -> " : ", ") + opened.resources[other].name;
                std::cout << fmt::format("  {:<9} {:016x} {:>10}  {}{}\n", files::kindWord(resource.key.kind),
                                         resource.key.number, showBytes(double(resource.bytes->size())),
                                         resource.name, to);
            }
            sayFindings(checked);
        }
        return check_ && !checked.isClean() ? DoesNotFit : Fine;
    }

    int copy(const package::Package& opened, const Progress& progress) {
        package::Mine mine{mine_, maker_};
        const auto sheet = sheetNamed(platform::loadSheets({}, nullptr, sheetWords()), platform_);
        for (const platform::Prefix& prefix : sheet->prefixes) mine.prefixes.push_back(prefix.code);
        auto others = package::indicesBeside(out_, progress);
        const auto original = indexOf(opened);
        std::erase_if(others, [&](const package::Index& other) {
            std::error_code error;
            return std::filesystem::equivalent(other.file, opened.file, error);
        });
        const auto copied = makeMine(opened, mine, numbersOf(others));
        const auto checked = checkReferences(copied.package, others, &original);
        if (checked.isClean()) writeFile(out_, bytesOf(copied.package));
        if (json) {
            nlohmann::ordered_json out{{"out", checked.isClean() ? out_ : ""},
                                       {"references", copied.references},
                                       {"namesInTexts", copied.namesInTexts},
                                       {"resources", nlohmann::ordered_json::array()}};
            for (const auto& change : copied.changes)
                out["resources"].push_back({{"kind", files::kindWord(change.oldKey.kind)},
                                            {"was", change.oldName},
                                            {"name", change.newName},
                                            {"number", fmt::format("{:016x}", change.newKey.number)}});
            addFindings(out, checked);
            print(out);
        } else {
            for (const auto& change : copied.changes)
                std::cout << fmt::format("  {:<9} {:016x}  {}  (was {})\n",
                                         files::kindWord(change.oldKey.kind), change.newKey.number,
                                         change.newName, change.oldName);
            std::cout << fmt::format("  {} rewritten, {} in texts\n",
                                     showCount(copied.references, "reference", "references"),
                                     showCount(copied.namesInTexts, "name", "names"));
            sayFindings(checked);
            if (!checked.isClean()) std::cout << "  nothing was written\n";
        }
        return checked.isClean() ? Fine : DoesNotFit;
    }

    static void addFindings(nlohmann::ordered_json& out, const package::ReferenceCheck& checked) {
        using Check = package::ReferenceCheck;
        for (const auto& [name, list] : {std::pair{"dangling", &Check::dangling},
                                         {"foreign", &Check::foreign},
                                         {"collisions", &Check::collisions}}) {
            out[name] = nlohmann::ordered_json::array();
            for (const auto& finding : checked.*list)
                out[name].push_back({{"where", finding.where}, {"what", finding.what}, {"why", finding.why}});
        }
    }
    static void sayFindings(const package::ReferenceCheck& checked) {
        for (const auto* list : {&checked.dangling, &checked.foreign, &checked.collisions})
            for (const auto& finding : *list) std::cout << fmt::format("  !! {}\n", finding.why);
        if (checked.isClean())
            std::cout << fmt::format("  {} checked, none leads astray\n",
                                     showCount(checked.references, "reference", "references"));
    }

    std::string file_, mine_, maker_, out_, platform_;
    bool check_ = false;
};

} // namespace

std::unique_ptr<Command> makePackage() {
    return std::make_unique<PackageOf>();
}

} // namespace zl::cli
