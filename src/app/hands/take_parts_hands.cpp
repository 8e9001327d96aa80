#include "app/hands/row_values.h"
#include "app/hands/step_hands.h"

#include "core/geometry/part_places.h"
#include "core/model/node_path.h"

namespace zl::app {

namespace {

/// For each row a mark at the part that has come in, which moves it off its place. The part on the other side
/// moves as its mirror image where both stood so before: a track is made wider with one hand.
class TakePartsHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const auto rows = place.params.value("rows", nlohmann::json::array());
        const glm::dmat4 shown = toShown(place.before, place.shown);
        std::vector<Handle> out;
        const auto places = placesOf(place.before, rows);
        for (std::size_t i = 0; i < places.size(); ++i) {
            if (!places[i]) continue;
            const glm::dvec3 by = vectorOf(rows[i], "offset");
            Handle handle;
            handle.id = QString("offset:%1").arg(i);
            handle.field = "rows";
            handle.at = glm::dvec3(shown * glm::dvec4(*places[i] + by, 1));
            handle.way = Handle::Way::Across;
            handle.quiet = true;
            handle.label = by == glm::dvec3(0) ? QObject::tr("drag to move")
                                               : QObject::tr("out %1, up %2, forward %3")
                                                     .arg(shownLength(place, places[i]->x < 0 ? -by.x : by.x),
                                                          shownLength(place, by.y), shownLength(place, by.z));
            out.push_back(handle);
        }
        return out;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        auto rows = start.params.value("rows", nlohmann::json::array());
        const auto handle = rowHandle(id, rows);
        if (!handle) return std::nullopt;
        const auto places = placesOf(start.before, rows);
        if (!places[handle->row]) return std::nullopt;
        const glm::dmat4 back = glm::inverse(toShown(start.before, start.shown));
        const glm::dvec3 to(back * glm::dvec4(move.onto, 1));
        const glm::dvec3 was = vectorOf(rows[handle->row], "offset"), is = to - *places[handle->row];
        const auto mirrored = [](const glm::dvec3& v) { return glm::dvec3(-v.x, v.y, v.z); };
        for (std::size_t i = 0; i < places.size(); ++i)
            if (i != handle->row && places[i] && isNear(*places[i], mirrored(*places[handle->row])) &&
                isNear(vectorOf(rows[i], "offset"), mirrored(was)))
                rows[i]["offset"] = placeIn(mirrored(is));
        rows[handle->row]["offset"] = placeIn(is);
        return nlohmann::json{{"rows", rows}};
    }

private:
    static bool isNear(const glm::dvec3& a, const glm::dvec3& b) { return glm::distance(a, b) < 0.002; }

    /// Where each row's part goes when it is not moved; nothing where the row names no node.
    static std::vector<std::optional<glm::dvec3>> placesOf(const Model& before, const nlohmann::json& rows) {
        const auto byPath = nodesByPath(before);
        std::vector<std::optional<glm::dvec3>> out(rows.size());
        for (std::size_t i = 0; i < rows.size(); ++i) {
            const auto node = byPath.find(rows[i].value("place", ""));
            if (node == byPath.end()) continue;
            out[i] = geometry::placeOf(before, node->second, geometry::withBelow(before, node->second),
                                       geometry::By::Centre);
        }
        return out;
    }
};

} // namespace

const StepHands& takePartsHands() {
    static const TakePartsHands hands;
    return hands;
}

} // namespace zl::app
