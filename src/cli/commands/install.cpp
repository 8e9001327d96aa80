// `install` and `uninstall`: a delivery into a game's own folder, and out again.
#include "cli/commands/all_commands.h"

#include "core/install/install.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

constexpr std::string_view kinds[] = {"add", "replace", "remove", "keep"};

/// Tells what was, or would be, done; the exit code.
int told(const install::Plan& plan, bool done, bool json, const auto& print) {
    nlohmann::ordered_json out{{"name", plan.name},
                               {"keptAs", plan.keptAs},
                               {"changes", nlohmann::ordered_json::array()},
                               {"problems", plan.problems},
                               {"done", done}};
    for (const auto& change : plan.changes)
        out["changes"].push_back(
            {{"kind", kinds[std::size_t(change.kind)]}, {"path", change.path}, {"bytes", change.bytes}});
    if (json) {
        print(out);
    } else {
        for (const auto& change : plan.changes)
            std::cout << fmt::format("  {:<8} {}{}\n", kinds[std::size_t(change.kind)], change.path,
                                     change.kind == install::Change::Kind::Removed
                                         ? ""
                                         : fmt::format(" ({})", showBytes(double(change.bytes))));
        for (const std::string& problem : plan.problems)
            std::cout << "  stands in the way: " << problem << '\n';
        if (!plan.keptAs.empty()) std::cout << fmt::format("  the original is kept as {}\n", plan.keptAs);
        std::cout << (plan.problems.empty() ? done ? "done and read back\n" : "nothing was changed yet\n"
                                            : "nothing was changed\n");
    }
    return plan.problems.empty() ? Fine : DoesNotFit;
}

/// Does it, unless it is only to be looked at or something stands in the way, and tells.
int carriedOut(const install::Prepared& work, bool looksOnly, bool json, const Progress& progress,
               const auto& print) {
    const bool does = !looksOnly && work.plan().problems.empty();
    if (does) work.carryOut(progress);
    return told(work.plan(), does, json, print);
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
        app.add_option("--keep-as", wishes_.keepAs, "what the original is called from then on");
        app.add_flag("--dry-run", looksOnly_, "only say what would be done");
        app.add_flag("--lose-changes", wishes_.losesChanges,
                     "give up what others have changed in files that were installed before");
    }
    int execute(const Progress& progress) override {
        const auto show = [this](const auto& out) { print(out); };
        return carriedOut(install::prepared(folder_, game_, wishes_), looksOnly_, json, progress, show);
    }

private:
    std::string folder_, game_;
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
        return carriedOut(install::preparedOut(game_, name_, wishes_), looksOnly_, json, progress, show);
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
