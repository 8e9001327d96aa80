#include "cli/command.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/version.h"
#include "core/files/address.h"
#include "core/files/key_memory.h"
#include "core/files/terms.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <csignal>
#include <iostream>
#include <mutex>
#include <unistd.h>

namespace {

std::atomic<bool> interrupted{false};

/// One line on a terminal, drawn over itself; nothing elsewhere.
class ProgressLine {
public:
    void show(double fraction, std::string_view what) {
        const std::scoped_lock lock(mutex_);
        const int percent = static_cast<int>(fraction * 100);
        if (percent == last_ && what == lastWhat_) return;
        last_ = percent, lastWhat_ = what;
        const std::string line = fmt::format("\r{:3} %  {:<40.40}", percent, what);
        if (::write(STDERR_FILENO, line.data(), line.size()) > 0) shown_ = true;
    }
    ~ProgressLine() {
        if (shown_) std::cerr << '\r' << std::string(60, ' ') << '\r' << std::flush;
    }

private:
    std::mutex mutex_;
    int last_ = -1;
    std::string lastWhat_;
    bool shown_ = false;
};

/// A key that does not open an archive may have opened it before.
std::string withDay(const zl::files::KeyNeeded& error) {
    using namespace zl::files;
    if (const auto day = lastRightInWords(termsOf(addressOf(error.where()).file)); error.wrong() && day)
        return fmt::format("{}: the key does not open this archive; it was last right on {}. {}",
                           error.where(), *day, error.mend());
    return error.whole();
}

int run(zl::cli::Command& command) {
    using namespace zl;
    const auto fail = [](const std::string& text, int code) {
        std::cerr << "zest-loom-cli: " << text << std::endl;
        return code;
    };
    try {
        ProgressLine line;
        const bool terminal = ::isatty(STDERR_FILENO) != 0;
        const Progress progress(
            terminal ? Progress::Listener([&](double f, std::string_view w) { line.show(f, w); })
                     : Progress::Listener(),
            &interrupted);
        command.archives.give();
        const int code = command.execute(progress);
        files::rememberOpened();
        return code;
    } catch (const Cancelled&) {
        return fail("stopped; nothing was written", 130);
    } catch (const files::KeyNeeded& error) {
        return fail(withDay(error), cli::BadInput);
    } catch (const Refused& error) {
        return fail(error.whole(), cli::DoesNotFit);
    } catch (const Error& error) {
        return fail(error.whole(), cli::BadInput);
    } catch (const std::bad_alloc&) {
        return fail("there is not enough memory for this model", cli::BadInput);
    } catch (const std::exception& error) {
        return fail(fmt::format("something unforeseen went wrong ({})", error.what()), cli::BadInput);
    }
}

} // namespace

int main(int argc, char** argv) {
    std::signal(SIGINT, [](int) { interrupted = true; });
    CLI::App app{"Fits models to what games and creation platforms accept."};
    app.set_version_flag("--version", std::string(zl::programVersion()));
    app.require_subcommand(1);
    app.failure_message(CLI::FailureMessage::help);
    const auto commands = zl::cli::allCommands();
    int code = zl::cli::Fine;
    for (const auto& command : commands) {
        CLI::App* sub = app.add_subcommand(command->name(), command->help());
        sub->add_flag("--json", command->json, "print one JSON document and nothing else");
        command->declare(*sub);
        sub->callback([&command, &code] { code = run(*command); });
    }
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        return app.exit(error) == 0 ? zl::cli::Fine : zl::cli::BadInput;
    }
    return code;
}
