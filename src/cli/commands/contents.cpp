// `contents` and `take-out`: what lies in archives and packages.
#include "cli/commands/all_commands.h"

#include "core/base/units.h"
#include "core/files/take_out.h"
#include "core/formats/file_kind.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

nlohmann::ordered_json refusedJson(const std::vector<files::Passed>& refused) {
    auto out = nlohmann::ordered_json::array();
    for (const files::Passed& passed : refused) out.push_back({{"path", passed.path}, {"why", passed.why}});
    return out;
}

void listRefused(const std::vector<files::Passed>& refused) {
    for (const files::Passed& passed : refused)
        std::cout << fmt::format("  !! {}: {}\n", passed.path, passed.why);
}

class ContentsOf : public Command {
public:
    std::string name() const override { return "contents"; }
    std::string help() const override { return "list what an archive or a package holds"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "zip, 7z, tar (also packed) or SQLite archive")->required();
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const auto contents = files::contentsOf(file_, files::termsOf(file_), progress);
        if (json) {
            nlohmann::ordered_json out{{"entries", nlohmann::ordered_json::array()},
                                       {"refused", refusedJson(contents.refused)}};
            for (const files::Held& held : contents.held)
                out["entries"].push_back({{"path", held.path},
                                          {"kind", formats::kindName(formats::kindOf(held.path))},
                                          {"bytes", held.bytes},
                                          {"encrypted", held.locked},
                                          {"depth", held.depth}});
            print(out);
            return Fine;
        }
        for (const files::Held& held : contents.held)
            std::cout << fmt::format("  {:<8} {:>10}  {}{}\n", formats::kindName(formats::kindOf(held.path)),
                                     showBytes(double(held.bytes)), held.path,
                                     held.locked ? " (locked)" : "");
        listRefused(contents.refused);
        return Fine;
    }

private:
    std::string file_;
};

class TakeOut : public Command {
public:
    std::string name() const override { return "take-out"; }
    std::string help() const override { return "take files out of an archive or a package"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "archive or package")->required();
        app.add_option("INSIDE", insides_,
                       "file, folder or archive in it, or a pattern with *; all of it "
                       "without one");
        app.add_option("--out", out_, "folder to put them in")->required();
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const auto terms = files::termsOf(file_);
        auto contents = files::contentsOf(file_, terms, progress.between(0, 0.2));
        if (insides_.empty()) insides_ = {"*"};
        const auto taken =
            files::takeOut(file_, files::chosenOf(contents, insides_), out_, terms, progress.between(0.2, 1));
        if (json) {
            nlohmann::ordered_json out{{"files", nlohmann::ordered_json::array()},
                                       {"refused", refusedJson(taken.refused)}};
            for (const auto& file : taken.files)
                out["files"].push_back(
                    {{"inside", file.inside}, {"file", file.file.string()}, {"renamed", file.renamed}});
            print(out);
        } else {
            for (const auto& file : taken.files)
                std::cout << fmt::format("  {}{}\n", file.file.string(),
                                         file.renamed ? fmt::format("  (was \"{}\")", file.inside) : "");
            listRefused(taken.refused);
        }
        return taken.refused.empty() ? Fine : DoesNotFit;
    }

private:
    std::string file_, out_;
    std::vector<std::string> insides_;
};

} // namespace

std::unique_ptr<Command> makeContents() {
    return std::make_unique<ContentsOf>();
}
std::unique_ptr<Command> makeTakeOut() {
    return std::make_unique<TakeOut>();
}

} // namespace zl::cli
