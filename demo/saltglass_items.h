#pragma once
#include "saltglass_worn.h"

#include <string>
#include <vector>

namespace zl::demo {

/// A small thing of the harbour, and how the game's catalogue lists it.
struct Item {
    std::string code; ///< the game's name for it
    std::string title;
    std::string pack;
    Shape make;
    std::string place{}, bone{}; ///< of a worn one
    std::string maker{};         ///< empty: the game itself
};

/// Sixty of them.
std::vector<Item> saltglassItems();

// Those that are handed round in kits too.
void crabBasket(Solids& s);
void bollard(Solids& s);
void netFloat(Solids& s);
void jar(Solids& s, double radius, double tall);
void stormLamp(Solids& s);
void sign(Solids& s);
void scales(Solids& s);
void stool(Solids& s, double tall = 0.45, int legs = 3);

} // namespace zl::demo
