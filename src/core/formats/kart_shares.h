#pragma once
#include "core/formats/kart_file.h"

namespace zl::formats {

/// What takes how many bytes of a kart's file, and what a mend of it would bring.
struct KartShare {
    enum class Kind { Mesh, Picture, Clip, Other } kind = Kind::Other;
    std::string what; ///< name of the part, picture or clip; "the rest"
    std::size_t bytes = 0;
    std::size_t saving = 0; ///< by that mend; 0 where it would bring nothing
    std::string mend;       ///< in words: "at half its edges"
};

/// All of a kart's file, the largest first; shares together are the file. Savings are exact for pictures (at
/// half their edges) and keys (those that their neighbours tell left out), and in proportion for a mesh (a
/// quarter fewer triangles). Throws as kartChunks does.
std::vector<KartShare> kartShares(const Model& model, const KartOptions& options,
                                  const Progress& progress = {});

} // namespace zl::formats
