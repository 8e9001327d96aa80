#pragma once
#include "core/upload/cargo.h"
#include "core/upload/connection.h"

namespace zl::upload {

enum class Region { Test, Main };
std::string_view regionName(Region region);

struct Uploaded {
    std::size_t pictures = 0, solids = 0, groups = 0; ///< sent now
    std::size_t there = 0;                            ///< that were there already
    std::string verdict;                              ///< the region's
    double above = 0;                                 ///< metres above the one who uploads
    std::vector<std::string> log;
};

/// Called with each line of the log as it comes.
using Log = std::function<void(const std::string&)>;

/// What an upload would do, a line each; sends nothing.
std::vector<std::string> dryRun(const Cargo& cargo, Region region);

/// Puts a folder's scene up in a region: a folder in the inventory, the pictures, the solids, the groups, and
/// last the whole, which the region looks at. What is there already is not sent again, so an upload that
/// broke off goes on where it was. The main region wants what stands in the test region. Throws Refused with
/// the server's reason, and Cancelled.
Uploaded upload(const Cargo& cargo, Region region, Connection& connection, const Log& log,
                const Progress& progress);

} // namespace zl::upload
