#pragma once
#include "core/deliver/deliver.h"
#include "core/platform/sheet.h"
#include "core/project/source_cache.h"

namespace zl::project {

struct BuildAllOptions {
    std::filesystem::path out;                  ///< files go to out/PLATFORM/PIECE
    int jobs = 0;                               ///< crossings at a time; 0 is as many as there are cores
    std::vector<std::string> pieces, platforms; ///< only these; empty is all
};

/// What became of one crossing.
struct BuiltCrossing {
    enum class Outcome { Built, Unchanged, DoesNotFit, Failed };
    std::string piece, platform, platformName;
    Outcome outcome = Outcome::Failed;
    double seconds = 0;
    std::vector<std::pair<std::string, std::size_t>> files;
    std::string words;  ///< why, when it was not built
    std::string credit; ///< of its sources
    std::vector<std::string> warnings;
};
std::string_view
outcomeId(BuiltCrossing::Outcome outcome); ///< "built", "unchanged", "does-not-fit", "failed"

/// Where the files of a crossing go.
std::filesystem::path folderOf(const std::filesystem::path& out, const std::string& platform,
                               const std::string& piece);

/// The crossings that something can be delivered for, in the project's order.
std::vector<std::pair<const Piece*, const platform::Sheet*>>
deliverableCrossings(const Project& project,
                     const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                     const BuildAllOptions& options);

/// Builds them side by side. A crossing whose sources, recipe, sheet and delivered files are as a record in
/// out/.zest-loom says is left alone. One that fails, or whose folder another piece's name takes, does not
/// stop the others. Throws Cancelled only.
std::vector<BuiltCrossing> buildAll(const Project& project,
                                    const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                                    SourceCache& sources, const BuildAllOptions& options,
                                    const Progress& progress = {});

/// The files that a crossing turned out to rest on, in the form in which compilers tell build runners (a rule
/// of make): `target` depends on each of `files`.
std::string dependencyRule(const std::filesystem::path& target,
                           const std::vector<std::filesystem::path>& files);

/// The same work as a build file for any runner that reads Ninja's format (ninja-build.org manual): one edge
/// a crossing, run by `program`. Throws Refused when a name or path has a line break.
std::string ninjaFile(const Project& project,
                      const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                      const BuildAllOptions& options, const std::string& program);

} // namespace zl::project
