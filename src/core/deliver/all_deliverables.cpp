#include "core/deliver/deliver.h"

namespace zl::deliver {

std::span<const Deliverable> allDeliverables() {
    static const std::vector<Deliverable> deliverables{
        {"table-figure", "Figure for the table", makeTableFigure},
        {"level-scene", "Scene for the level compiler", makeLevelScene},
        {"object-pack", "Pack of objects", makeObjectPack, {"glb", "obj"}},
        {"truck-scene", "Truck", makeTruckScene},
    };
    return deliverables;
}

} // namespace zl::deliver
