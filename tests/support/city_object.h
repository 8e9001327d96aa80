#pragma once
#include "core/base/file_set.h"
#include "core/deliver/city_object.h"
#include "support/ran_step.h"
#include "support/shapes.h"
#include "support/sheets.h"

/// A block with a body for the city, called so, with this number, standing there.
inline zl::Model cityObject(int number, glm::dvec3 at = {50, 50, 0}, const std::string& district = "") {
    zl::Model block = shapes::box({-0.5, 0, -0.5}, {0.5, 1, 0.5});
    const auto calder = sheet("portcalder");
    block = ranStep(block, "number", {{"number", number}}, calder.get()).model;
    block = ranStep(block, "place-on-map",
                    {{"places", {{{"at", {at.x, at.y, at.z}}, {"turn", 35}, {"district", district}}}}},
                    calder.get())
                .model;
    block = ranStep(block, "surface-kind", {{"kind", "iron"}}, calder.get()).model;
    return ranStep(block, "collision-mesh", nlohmann::json::object(), calder.get()).model;
}

inline void writeObject(const zl::Model& model, const std::string& name,
                        const std::filesystem::path& folder) {
    zl::writeAllOrNone(folder, zl::deliver::CityObject{}.make(model, *sheet("portcalder"),
                                                              {.name = name, .credit = "Mira Quill"}, {}));
}
