#pragma once
#include "core/learn/all_properties.h"

namespace zl::learn {

/// The files of one pattern, over all accepted groups: those that are what the pattern is.
struct PatternFiles {
    const Layout::Pattern* pattern;
    std::vector<const FileFacts*> files;
    std::vector<const Group*> groups; ///< of each file
    bool named = false;               ///< most are pictures that their group's models name
    bool usual = false;               ///< three groups in five have it
    bool isPlaced() const { return pattern->path.find('{') != std::string::npos; }
    /// Whether the game finds these pictures by a name that says what is in them.
    bool isPacked() const;
};

/// All patterns with their files, in the layout's order, but for those that no sheet can say.
std::vector<PatternFiles> patternFiles(const Evidence& evidence);

/// "{material}" of "textures/{material}-n.png" and "-n": what a pattern's name is but for places and ending.
std::string ownPart(const std::string& pattern);

} // namespace zl::learn
