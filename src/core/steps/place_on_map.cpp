#include "core/steps/place_on_map.h"

#include "core/formats/format.h"
#include "core/model/on_map.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::steps {

glm::dmat4 fromMap(const platform::Sheet* sheet) {
    if (!sheet) return glm::dmat4(1.0);
    return glm::inverse(formats::worldToFile({{}, 1.0, sheet->up, sheet->front}));
}

glm::dquat turnOnMap(double turn, double nod, double lean) {
    return glm::angleAxis(turn, glm::dvec3(0, 1, 0)) * glm::angleAxis(nod, glm::dvec3(1, 0, 0)) *
           glm::angleAxis(lean, glm::dvec3(0, 0, 1));
}

glm::dvec3 anglesOnMap(const glm::dquat& turn) {
    const glm::dmat3 m = glm::mat3_cast(glm::normalize(turn));
    // m = Ry(turn) Rx(nod) Rz(lean); its third column is where the front points.
    const double nod = std::asin(std::clamp(-m[2][1], -1.0, 1.0));
    if (std::abs(m[2][1]) > 1 - 1e-12) // straight up or down: the turn takes the lean as well
        return {std::atan2(-m[0][2], m[0][0]), nod, 0};
    return {std::atan2(m[2][0], m[2][2]), nod, std::atan2(m[0][1], m[1][1])};
}

Model PlaceOnMap::apply(const Model& in, StepContext& context) const {
    Model out = in;
    OnMap world = in.onMap ? *in.onMap : OnMap{};
    world.places.clear();
    const glm::dmat4 toModel = fromMap(context.sheet);
    for (const Place& place : places) {
        world.places.push_back({glm::dvec3(toModel * glm::dvec4(place.at, 1)),
                                turnOnMap(place.turn, place.nod, place.lean), place.district});
        context.note(fmt::format(
            "at {}, {}, {} m{}{}", showNumber(place.at.x, 2), showNumber(place.at.y, 2),
            showNumber(place.at.z, 2),
            place.turn == 0 ? "" : fmt::format(", turned {}°", showNumber(glm::degrees(place.turn), 1)),
            place.district.empty() ? "" : ", in " + place.district));
    }
    if (places.empty()) context.note("it stands nowhere yet");
    context.facts = {{"places", places.size()}};
    out.onMap = std::make_shared<const OnMap>(std::move(world));
    return out;
}

} // namespace zl::steps
