#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A truck: one COLLADA file in decimetres, declared as 0.1, Y up, front to +X, nothing on the nodes;
/// pictures beside it (docs/formats/truck-scene.md).
struct TruckScene {
    static constexpr DeliverableInfo info{"truck-scene", "Truck", "One COLLADA file with its pictures."};
    static constexpr auto fields = describe();

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
