#pragma once
#include "core/model/material.h"

#include <optional>

namespace zl::platform {

class TableReader;
struct Vocabulary;

/// What one channel of a delivered picture holds.
struct ChannelSource {
    std::optional<PictureRole> role;              ///< none: `constant` everywhere
    PictureChannel part = PictureChannel::Colour; ///< of a role of three: red, green, blue or their mean
    bool turnedOver = false;                      ///< 1 - value
    double constant = 0;

    bool operator==(const ChannelSource&) const = default;
};

/// One picture that a platform wants of every material.
struct SheetPicture {
    std::string name; ///< of the file without its ending; "{material}" stands for the material's name
    std::array<std::optional<ChannelSource>, 4>
        channels;               ///< red, green, blue, alpha; a missing alpha is none
    std::string format = "png"; ///< id of a kind of picture
    int mostEdge = 0;           ///< larger ones are shrunk to it; 0 for no limit
    MaterialSettings flags;     ///< what the file beside it says besides

    bool hasAlpha() const { return channels[3].has_value(); }
    std::string nameFor(const std::string& material) const;
    /// The roles that its channels hold, each once.
    std::vector<PictureRole> roles() const;
};

/// What a platform wants pictures and materials to be.
struct SheetSurface {
    std::vector<SheetPicture> pictures;
    std::string materialName = "{name}"; ///< on delivery; "{name}" stands for its name here
    MaterialSettings settings; ///< that every material is to have, each with this value
    std::string companion; ///< ending of the file beside each picture that says what is in it; empty: none

    std::string materialFor(const std::string& name) const;
};

/// "normal.red", "1 - gloss", "0.5": as sheets write it.
std::string textOf(const ChannelSource& channel);

/// Reads a `[[picture]]` section. Throws Error with file and line.
SheetPicture readPicture(TableReader& section, const Vocabulary& words);

} // namespace zl::platform
