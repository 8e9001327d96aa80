// `upload`: a delivered scene to a region's server. The password is asked for, or read from a variable or a
// file: never from the command line, where everybody on the machine could read it.
#include "cli/commands/all_commands.h"

#include "core/base/error.h"
#include "core/upload/keyring.h"
#include "core/upload/upload.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>
#include <optional>

namespace zl::cli {

namespace {

class Upload : public Command {
public:
    std::string name() const override { return "upload"; }
    std::string help() const override { return "put a delivered scene up in a region of a shared world"; }
    void declare(CLI::App& app) override {
        app.add_option("DIR", folder_, "folder with a .scene.xml and its pictures")->required();
        app.add_option("--to", to_.url, "address of the region's server, https:// or on this machine http://")
            ->required();
        app.add_option("--user", to_.user, "name to log in with");
        app.add_option("--region", region_, "test (first of all) or main")
            ->check(CLI::IsMember({"test", "main"}))
            ->capture_default_str();
        auto* variable = app.add_option("--password-env", variable_, "variable that holds the password");
        app.add_option("--password-file", file_, "file whose first line is the password, for your eyes only")
            ->excludes(variable);
        app.add_option("--password", open_, "refused: others could read it")->group("");
        app.add_flag("--remember", remembers_, "keep the password in the desktop's keyring");
        app.add_flag("--forget", forgets_, "take what is kept out of the keyring first, and ask anew");
        app.add_flag("--dry-run", dry_, "say what would be done, and send nothing");
        app.add_option("--trust", to_.trust, "file with a certificate to trust (PEM)");
        app.add_option("--tries", to_.patience.tries, "how often to try before giving up")
            ->check(CLI::Range(1, 1000))
            ->capture_default_str();
    }

    int execute(const Progress& progress) override {
        if (!open_.empty()) {
            upload::wipe(open_);
            throw Error("a password on the command line could be read by everybody on this machine",
                        "--password", "Leave it out to be asked, or use --password-env or --password-file.");
        }
        // Before anything is read: until it is taken out, whoever may see the process sees the variable.
        std::optional<upload::Secret> given;
        if (!variable_.empty()) given = upload::secretFromEnvironment(variable_);
        const upload::Cargo cargo = upload::cargoIn(folder_);
        const auto region = region_ == "main" ? upload::Region::Main : upload::Region::Test;
        if (dry_) return say(upload::dryRun(cargo, region));
        if (to_.user.empty()) throw Error("nobody is named to log in", "--user", "Add --user NAME.");
        if (forgets_) upload::forgetSecret(to_.url, to_.user);
        const upload::Log log = [this](const std::string& line) {
            (json ? std::cerr : std::cout) << "  " << line << std::endl;
        };
        upload::Secret password = given ? std::move(*given) : secret();
        if (remembers_) upload::keepSecret(to_.url, to_.user, password);
        upload::Connection connection(to_, std::move(password), log);
        const upload::Uploaded done = upload::upload(cargo, region, connection, log, progress);
        if (json)
            print(nlohmann::ordered_json{{"build", cargo.name},
                                         {"region", region_},
                                         {"pictures", done.pictures},
                                         {"solids", done.solids},
                                         {"groups", done.groups},
                                         {"there", done.there},
                                         {"verdict", done.verdict},
                                         {"above", done.above},
                                         {"log", done.log}});
        return Fine;
    }

private:
    int say(const std::vector<std::string>& lines) {
        if (json)
            print(nlohmann::ordered_json{{"would", lines}});
        else
            for (const std::string& line : lines) std::cout << "  " << line << '\n';
        return Fine;
    }

    upload::Secret secret() {
        if (!file_.empty()) return upload::secretFromFile(file_);
        if (!forgets_)
            if (auto kept = upload::keptSecret(to_.url, to_.user)) return std::move(*kept);
        return upload::secretFromTerminal(fmt::format("Password of {} at {}: ", to_.user, to_.url));
    }

    std::string folder_, region_ = "test", variable_, file_, open_;
    upload::Connection::To to_;
    bool remembers_ = false, forgets_ = false, dry_ = false;
};

} // namespace

std::unique_ptr<Command> makeUpload() {
    return std::make_unique<Upload>();
}

} // namespace zl::cli
