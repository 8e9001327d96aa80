#pragma once
#include "dice.h"

#include <string>

namespace torture {

struct RoughFile {
    std::string name, bytes;
};

/// A model file written by hand, as some program once wrote it: names in Latin-1, numbers that are none,
/// indices that count back, materials before there are any, polygons, empty groups, lines that nobody knows.
RoughFile roughFile(Dice& dice);

} // namespace torture
