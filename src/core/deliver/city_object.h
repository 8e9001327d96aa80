#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// An object of an open-world city, as the city keeps its own: objects.zip with NAME.mesh, NAME.pictures and
/// NAME.contact, a line of definitions.csv, lines of placements.csv, and NAME.object.json, by which it is
/// put into the city (docs/formats/city-object.md).
struct CityObject {
    std::string called; ///< empty is the piece's name

    static constexpr DeliverableInfo info{
        "city-object", "Object of a city",
        "Mesh, pictures and body in one archive, and the lines of its tables."};
    static constexpr auto fields = describe(field<&CityObject::called>("called", "Called")
                                                .help("The city knows it by this name.")
                                                .leastIs("the piece's name"));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
