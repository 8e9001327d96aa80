#pragma once
#include "standins/world/doll.h"
#include "standins/house/row_file.h"
#include "standins/stand_in.h"
#include "standins/world/files.h"

namespace zl::standins::house {

namespace doll = world::doll;
using doll::Turns;

/// A drawn part of an item.
struct Part {
    world::Shape shape;
    std::optional<world::Picture> picture;
    glm::vec3 colour{0.8f};
};

/// An item as the game shows it: with the shape that the game finds under its number, be it its own or not.
struct Item {
    std::string title, file, bone;
    bool delivered = false;
    std::vector<Part> parts;
    std::size_t triangles = 0;
    std::string wears; ///< the file whose shape it shows in place of its own; empty when it is its own
    glm::vec3 low{0}, high{0};
};

/// All packages of a delivered folder, loaded in the order of the game: the neighbours, then what was
/// delivered.
struct Pose {
    std::string title;
    Turns turns;
};
struct Row {
    std::vector<Item> items;
    std::vector<Pose> poses; ///< delivered, for the game's own figures
    std::string credit;
};

/// Messages go into `report`; nothing when no item can be shown.
std::optional<Row> loadRow(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::house
