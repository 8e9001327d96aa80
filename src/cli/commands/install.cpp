// `install` and `uninstall`: a delivery into a game's own folder, and out again.
#include "cli/commands/all_commands.h"

#include "core/base/error.h"
#include "core/install/install.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

constexpr std::string_view kinds[] = {"add", "replace", "remove", "keep", "extend"};

/// The details of a change, a line each.
std::vector<std::string> detailLines(const install::Change& change) {
    std::vector<std::string> out;
    for (const std::string& detail : change.details) out.push_back(fmt::format("           {}\n", detail));
    return out;
}

/// Tells what was, or would be, done; the exit code.
int told(const install::Plan& plan, bool done, const std::vector<std::string>& found, bool json,
         const auto& print) {
    nlohmann::ordered_json out{
        {"name", plan.name},         {"keptAs", plan.keptAs}, {"changes", nlohmann::ordered_json::array()},
        {"problems", plan.problems}, {"notes", plan.notes},   {"mergeInto", plan.mergeInto},
        {"readOnly", plan.readOnly}, {"found", found},        {"done", done}};
    for (const auto& change : plan.changes)
        out["changes"].push_back({{"kind", kinds[std::size_t(change.kind)]},
                                  {"path", change.path},
                                  {"bytes", change.bytes},
                                  {"details", change.details}});
    if (json) {
        print(out);
    } else {
        for (const auto& change : plan.changes)
            std::cout << fmt::format("  {:<8} {}{}\n", kinds[std::size_t(change.kind)], change.path,
                                     change.kind == install::Change::Kind::Removed
                                         ? ""
                                         : fmt::format(" ({})", showBytes(double(change.bytes))))
                      << fmt::format("{}", fmt::join(detailLines(change), ""));
        for (const std::string& note : plan.notes) std::cout << "  " << note << '\n';
        for (const std::string& problem : plan.problems)
            std::cout << "  stands in the way: " << problem << '\n';
        if (!plan.keptAs.empty()) std::cout << fmt::format("  the original is kept as {}\n", plan.keptAs);
        for (const std::string& line : found) std::cout << "  there now: " << line << '\n';
        std::cout << (plan.problems.empty() ? done ? "done and read back\n" : "nothing was changed yet\n"
                                            : "nothing was changed\n");
    }
    return plan.problems.empty() ? Fine : DoesNotFit;
}

/// Does it, unless it is only to be looked at or something stands in the way, and tells.
int carriedOut(const install::Prepared& work, const std::string& game, bool looksOnly, bool json,
               const Progress& progress, const auto& print) {
    const bool does = !looksOnly && work.plan().problems.empty();
    if (does) work.carryOut(progress);
    const auto found = does ? install::found(game, work.plan().name) : std::vector<std::string>();
    return told(work.plan(), does, found, json, print);
}

class Install : public Command {
public:
    std::string name() const override { return "install"; }
    std::string help() const override {
        return "put delivered files into a game's own folder; the original is kept";
    }
    void declare(CLI::App& app) override {
        app.add_option("DIR", folder_, "folder with the delivered files")->required();
        app.add_option("--into", game_, "the game's folder")->required();
        auto* platform = app.add_option("--platform", platform_, "platform whose sheet says what goes where");
        app.add_option("--name", name_, "what it is called there (as the folder)")->needs(platform);
        app.add_option("--project", project_, "also read the sheets of this project folder")->needs(platform);
        app.add_option("--keep-as", wishes_.keepAs, "what the original is called from then on");
        app.add_option("--merge-into", wishes_.mergeInto,
                       "the collision file of the game that the body is put into");
        app.add_flag("--make-writable", wishes_.makeWritable, "make tables writable that are read-only");
        app.add_flag("--dry-run", looksOnly_, "only say what would be done");
        app.add_flag("--lose-changes", wishes_.losesChanges,
                     "give up what others have changed in files that were installed before");
    }
    int execute(const Progress& progress) override {
        const auto show = [this](const auto& out) { print(out); };
        return carriedOut(work(), game_, looksOnly_, json, progress, show);
    }

private:
    install::Prepared work() const {
        if (platform_.empty()) return install::prepared(folder_, game_, wishes_);
        const auto sheet =
            platform::sheetNamed(platform::loadSheets(project_, nullptr, sheetWords()), platform_);
        if (!install::canInstall(*sheet))
            throw Refused(fmt::format("{} says nothing of where its files go", sheet->name), {},
                          "Add `installed = \"FOLDER\"` to [deliver] in its sheet.");
        const std::string own = std::filesystem::absolute(folder_ + "/.").parent_path().filename().string();
        return install::preparedFor(*sheet, name_.empty() ? own : name_, folder_, game_, wishes_);
    }

    std::string folder_, game_, platform_, name_, project_;
    install::Wishes wishes_;
    bool looksOnly_ = false;
};

class Uninstall : public Command {
public:
    std::string name() const override { return "uninstall"; }
    std::string help() const override {
        return "take an installation out again: what was there before comes back";
    }
    void declare(CLI::App& app) override {
        app.add_option("GAME", game_, "the game's folder")->required();
        app.add_option("NAME", name_, "what was installed")->required();
        app.add_flag("--dry-run", looksOnly_, "only say what would be done");
        app.add_flag("--lose-changes", wishes_.losesChanges, "give up what others have changed since");
    }
    int execute(const Progress& progress) override {
        const auto show = [this](const auto& out) { print(out); };
        return carriedOut(install::preparedOut(game_, name_, wishes_), game_, looksOnly_, json, progress,
                          show);
    }

private:
    std::string game_, name_;
    install::Wishes wishes_;
    bool looksOnly_ = false;
};

} // namespace

std::unique_ptr<Command> makeInstall() {
    return std::make_unique<Install>();
}

std::unique_ptr<Command> makeUninstall() {
    return std::make_unique<Uninstall>();
}

} // namespace zl::cli
