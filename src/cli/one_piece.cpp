#include "cli/one_piece.h"

#include <CLI/CLI.hpp>

namespace zl::cli {

void OnePiece::declare(CLI::App& app, ArchiveOptions& archives) {
    opened_.declare(app);
    app.add_option("--platform", platform_, "platform id")->required();
    app.add_option("--piece", name_, "this piece of the project");
    frame_.declare(app);
    archives.declare(app);
}

void OnePiece::open() {
    opened_.open();
    sheet_ = platform::sheetNamed(opened_.sheets, platform_);
    piece_ = &opened_.onePiece(name_);
}

Model OnePiece::model(const Progress& progress) {
    recipe::EvaluationCache cache;
    return opened_.evaluated(piece(), sheet(), frame_, cache, progress).model;
}

} // namespace zl::cli
