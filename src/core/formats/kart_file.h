#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::formats {

/// One chunk of a kart's file (docs/formats/kart-file.md) and what it is about.
struct KartChunk {
    std::string tag;   ///< four letters
    std::string what;  ///< "mesh", or the name of the picture or clip
    std::string bytes; ///< without its tag and length

    /// As it stands in the file: with tag and length, and one byte where its own are odd.
    std::size_t size() const { return 8 + bytes.size() + bytes.size() % 2; }
};

struct KartOptions {
    std::string name = "kart";
    std::string credit{};
    double metresPerUnit = 1;
    bool weighed = false; ///< for its size alone: what is in pictures' blocks does not matter
};

/// A kart in chunks: what is seen of the model, the pictures of its colours in blocks of 4 by 4 pixels, all
/// its nodes as bones, hidden ones too, and of its clips those that a slot plays. Throws Refused for what the
/// numbers cannot hold: more than 65 535 corners, more than 255 bones.
std::vector<KartChunk> kartChunks(const Model& model, const KartOptions& options,
                                  const Progress& progress = {});

/// The chunks as one file.
std::string kartFile(const std::vector<KartChunk>& chunks);
/// What it takes, in bytes.
std::size_t kartFileSize(const std::vector<KartChunk>& chunks);

} // namespace zl::formats
