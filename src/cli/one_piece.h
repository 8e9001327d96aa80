#pragma once
#include "cli/command.h"

namespace zl::cli {

/// One piece on one platform, as options say it: INPUT, `--project`, `--platform`, `--piece`, `--unit` and
/// `--up`.
class OnePiece {
public:
    /// With the options of archives, in which INPUT may lie.
    void declare(CLI::App& app, ArchiveOptions& archives);
    /// To be called before what follows. Throws Error for what there is not, and where several pieces could
    /// be meant.
    void open();

    Input& input() { return opened_; }
    const platform::Sheet& sheet() const { return *sheet_; }
    const project::Piece& piece() const { return *piece_; }
    const FrameOptions& frame() const { return frame_; }
    /// The piece as its recipe leaves it there.
    Model model(const Progress& progress);

private:
    std::string platform_, name_;
    FrameOptions frame_;
    Input opened_;
    std::shared_ptr<const platform::Sheet> sheet_;
    const project::Piece* piece_ = nullptr;
};

} // namespace zl::cli
