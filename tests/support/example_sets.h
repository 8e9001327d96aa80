#pragma once
#include "core/base/file_set.h"

#include <filesystem>
#include <map>
#include <string>
#include <vector>

/// A made-up game's limits and ways, which only its example files show.
struct HiddenGame {
    double metres = 1;
    bool zUp = false;
    std::string front;    ///< "+X"
    std::string format;   ///< "obj", "glb", "dae"
    int triangles = 4096; ///< cap
    bool powerOfTwo = true;
    int packing = 0;        ///< 0: one colour; 1: relief with height in alpha; 2: three maps in one; 3: both
    bool greenDown = false; ///< of the relief
    std::string names;      ///< "underscores", "hyphens", "capitals"; objects' and materials'
    std::string prefix;     ///< of their names; may be empty
    int layout = 0;         ///< 0: all in one folder; 1: a folder each; 2: models and textures
    int text = 0;           ///< 0: none; 1: JSON; 2: TOML; 3: XML; 4: INI

    /// Channels of the relief, and of the three maps, as a sheet would have them.
    std::vector<std::string> relief() const;
    std::vector<std::string> maps() const;
    /// The pattern of its models' paths.
    std::string modelPath() const;
    std::string textPath() const;
    /// The text of a piece, as the game's own tool writes it.
    std::string textOf(const std::string& title, const std::string& stem, int triangles) const;
};

HiddenGame hiddenGame(unsigned seed);

/// A dozen accepted files, things that everybody knows, some of them close to the limits.
void writeAccepted(const HiddenGame& game, unsigned seed, const std::filesystem::path& folder);
/// Two files for each limit that break it, and nothing else.
void writeRefused(const HiddenGame& game, unsigned seed, const std::filesystem::path& folder);
