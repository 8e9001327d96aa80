#pragma once
#include "standins/world/shape.h"

#include <filesystem>
#include <map>
#include <set>
#include <memory>
#include <string>
#include <vector>

namespace zl::standins::house {

/// What the game finds a resource by: kind, group and number as one text.
using Key = std::string;

struct Resource {
    Key key;
    std::uint32_t kind = 0;
    std::string name, bytes;
};

/// A package as the game reads it.
struct RowFile {
    std::string file; ///< its name
    std::string maker, credit;
    std::vector<Resource> resources;
    std::string problem; ///< why it cannot be read; empty when it can
};

/// Reads all resources; never more than 256 MB.
RowFile readRowFile(const std::filesystem::path& path);

/// A group of a geometry, as the game draws it: Y up here, +Z faces the viewer, metres.
struct Group {
    std::string name;
    Key material; ///< empty for none
    world::Shape shape;
};
/// The groups of a geometry resource; `problem` says why there are none.
std::vector<Group> groupsOf(const std::string& bytes, std::string& problem);

} // namespace zl::standins::house
