#pragma once
#include "core/base/stamp.h"
#include "core/deliver/deliver.h"
#include "core/platform/sheet.h"
#include "core/project/project.h"

namespace zl::project {

/// Everything that a piece on a platform rests on and that is known before any file of it is read. All that
/// asks "is this still true?" (the window, the build record, the build file) asks this.
struct Dependencies {
    std::vector<std::filesystem::path> files; ///< whole paths: sources, its own and of what it takes in
    std::string
        shape; ///< what else decides on the model: recipes, kept selections, the sheet, yardsticks' units
    std::string delivery; ///< what else decides on the files: name, its parameters, credit, program

    /// Changes when the model may come out otherwise. `more` are files that were found on reading.
    Hash shapeKey(Stamps& stamps, const std::vector<std::filesystem::path>& more = {}) const;
    /// Changes when the files may come out otherwise.
    Hash deliveryKey(Stamps& stamps, const std::vector<std::filesystem::path>& more = {}) const;
};

Dependencies dependenciesOf(const Project& project, const Piece& piece, const platform::Sheet& sheet);

/// What a delivery of the piece is called, whom it names, and where it comes from.
deliver::Labels labelsFor(const Project& project, const Piece& piece, std::string_view platform);

/// A whole path as a project's file keeps it: relative below the project's folder, else whole.
std::filesystem::path keptPath(const Project& project, const std::filesystem::path& whole);

/// A path of the project file as a whole one.
std::filesystem::path wholePath(const Project& project, const std::filesystem::path& path);

} // namespace zl::project
