#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A prop for a shooter engine, all of it text but the pictures: a compile script NAME.prop.txt, the mesh,
/// the convex pieces of its body, each of one surface kind, a level that places it, and pictures as DDS with
/// their levels (docs/formats/engine-prop.md). In the platform's own unit and axes.
struct EngineProp {
    std::string called; ///< empty is the piece's name

    static constexpr DeliverableInfo info{
        "engine-prop", "Prop for an engine's compiler",
        "A compile script with mesh, body and pictures, and a level that places it."};
    static constexpr auto fields = describe(field<&EngineProp::called>("called", "Called")
                                                .help("Small letters, digits and _.")
                                                .leastIs("the piece's name"));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
