// `serve-region`: the stand-in of a shared world's server, on this machine alone.
#include "cli/commands/all_commands.h"

#include "standins/region/region_server.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <csignal>
#include <iostream>
#include <mutex>

namespace zl::cli {

namespace {

class ServeRegion : public Command {
public:
    std::string name() const override { return "serve-region"; }
    std::string help() const override {
        return "run a region's server on this machine, with a test and a main region, to upload to";
    }
    void declare(CLI::App& app) override {
        app.add_option("--data", data_, "folder that holds what is uploaded")->required();
        app.add_option("--port", port_, "port to listen at; any that is free otherwise")
            ->check(CLI::Range(1, 65535));
        app.add_option("--faults", faults_,
                       "what goes wrong on purpose: busy=0.1,drop=0.1,lose=0.1,slow=30,seed=1");
        auto* certificate =
            app.add_option("--certificate", certificate_, "certificate to speak TLS with (PEM)");
        app.add_option("--key", key_, "its key (PEM)")->needs(certificate);
    }

    int execute(const Progress& progress) override {
        // Before any thread is there, so that all of them leave these signals to the one that waits.
        sigset_t signals;
        sigemptyset(&signals);
        sigaddset(&signals, SIGINT), sigaddset(&signals, SIGTERM);
        pthread_sigmask(SIG_BLOCK, &signals, nullptr);
        std::mutex printing;
        standins::region::RegionServer server({data_, port_, standins::region::faultsFrom(faults_),
                                               certificate_, key_, [&](const std::string& line) {
                                                   const std::lock_guard lock(printing);
                                                   std::cerr << "  " << line << '\n';
                                               }});
        if (json)
            print(nlohmann::ordered_json{{"url", server.url()}, {"port", server.port()}, {"data", data_}});
        else
            std::cout << fmt::format("  a test and a main region at {}; end with Ctrl+C\n", server.url());
        std::cout.flush();
        timespec wait{0, 200'000'000};
        while (!progress.isCancelled() && sigtimedwait(&signals, nullptr, &wait) < 0) {
        }
        return Fine;
    }

private:
    std::string data_, faults_, certificate_, key_;
    int port_ = 0;
};

} // namespace

std::unique_ptr<Command> makeServeRegion() {
    return std::make_unique<ServeRegion>();
}

} // namespace zl::cli
