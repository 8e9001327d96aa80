#pragma once
#include "core/deliver/console_piece.h"

#include <string>

namespace zl::deliver {

/// What everything in a piece's headers is called after, and whose it is.
struct ConsoleNames {
    std::string prefix; ///< as C takes it
    std::string credit;
};

// The texts of docs/formats/console-piece.md; names in the piece are ones that C takes, each once.
std::string namesHeader(const ConsolePiece& piece, const ConsoleNames& names);
std::string modelHeader(const ConsolePiece& piece, const ConsoleNames& names);
std::string picturesHeader(const ConsolePiece& piece, const ConsoleNames& names);
std::string exampleSource(const ConsolePiece& piece, const ConsoleNames& names);

} // namespace zl::deliver
