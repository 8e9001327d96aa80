#pragma once
#include "core/base/file_set.h"
#include "core/base/progress.h"
#include "core/model/model.h"
#include "core/platform/check.h"
#include "core/recipe/recipe.h"

namespace zl::deliver {

struct Options {
    std::string name = "piece"; ///< files are named after it; made safe with fileNameFrom()
    std::string finish;         ///< one of the sheet's finishes; empty takes the first
    std::string credit;         ///< goes into the delivered description
    std::string format;         ///< where the deliverable comes in more than one; empty takes the usual
};

/// What a platform wants on disk: one file here, one line in all_deliverables.cpp.
struct Deliverable {
    std::string_view id;
    std::string_view name;
    std::vector<OutFile> (*make)(const Model& model, const platform::Sheet& sheet, const Options& options,
                                 const Progress& progress) = nullptr;
    std::vector<std::string_view>
        formats{}; ///< to choose from, the usual one first; empty when there is one way
};

/// The words of steps, formats and deliverables that a sheet may use, with the stand-ins given.
platform::Vocabulary sheetWords(std::vector<std::string_view> standIns);

std::span<const Deliverable> allDeliverables();
/// The sheet's; throws Refused when nothing can be delivered for it yet.
const Deliverable& deliverableFor(const platform::Sheet& sheet);

std::vector<OutFile> makeLevelScene(const Model& model, const platform::Sheet& sheet, const Options& options,
                                    const Progress& progress);
std::vector<OutFile> makeObjectPack(const Model& model, const platform::Sheet& sheet, const Options& options,
                                    const Progress& progress);
std::vector<OutFile> makeTruckScene(const Model& model, const platform::Sheet& sheet, const Options& options,
                                    const Progress& progress);
std::vector<OutFile> makeTableFigure(const Model& model, const platform::Sheet& sheet, const Options& options,
                                     const Progress& progress);

struct BuildResult {
    bool fits = false;
    platform::FitReport report;
    std::vector<recipe::Outcome> steps;
    std::vector<std::pair<std::string, std::size_t>> files; ///< path, bytes; empty when it does not fit
    double seconds = 0;
};

/// Runs the recipe, checks, and writes all files to `folder`, or none when a `must` rule is broken or the
/// disk refuses (Refused).
BuildResult build(const Model& source, Hash sourceHash, const recipe::Recipe& recipe,
                  const platform::Sheet& sheet, const std::filesystem::path& folder, const Options& options,
                  recipe::EvaluationCache* cache = nullptr, const Progress& progress = {},
                  const steps::Surroundings* around = nullptr);

} // namespace zl::deliver
