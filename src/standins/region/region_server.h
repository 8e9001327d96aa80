#pragma once
#include "standins/region/faults.h"

#include <filesystem>
#include <functional>
#include <memory>
#include <string>

namespace zl::standins::region {

/// A server of a shared world's regions on this machine alone (docs/formats/region.md): people log in, keep
/// pictures in an inventory, and put builds up in a test and a main region. What it holds lies in a folder.
class RegionServer {
public:
    struct Options {
        std::filesystem::path folder;
        int port = 0; ///< 0 for any that is free
        FaultShares faults{};
        std::filesystem::path certificate{}, key{}; ///< PEM; with them it speaks TLS
        std::function<void(const std::string&)> log{};
    };
    /// Listens from here on. Throws Error where it cannot.
    explicit RegionServer(const Options& options);
    ~RegionServer(); ///< stops it

    RegionServer(const RegionServer&) = delete;
    RegionServer& operator=(const RegionServer&) = delete;

    int port() const;
    std::string url() const;
    /// Until stop(), which may come from another thread.
    void wait();
    void stop();

private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

} // namespace zl::standins::region
