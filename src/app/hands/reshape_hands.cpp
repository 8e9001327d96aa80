#include "app/hands/row_values.h"
#include "app/hands/step_hands.h"

#include "core/geometry/world.h"

namespace zl::app {

namespace {

/// For each row of changes: two marks on a post beside the model that give the heights between which corners
/// move, and one in the middle that carries them along.
class ReshapeHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const auto bounds = geometry::worldBounds(place.before);
        if (bounds.empty()) return {};
        std::vector<Handle> out;
        const auto rows = place.params.value("rows", nlohmann::json::array());
        for (std::size_t i = 0; i < rows.size(); ++i) {
            const auto height = [&](const char* name) { return rows[i].value(name, 0.0); };
            // Posts of several rows stand side by side.
            const double x = bounds.max.x + (0.12 + 0.08 * double(i)) * glm::length(bounds.size());
            for (const char* name : {"low", "high"}) {
                Handle handle;
                handle.id = QString("%1:%2").arg(name).arg(i);
                handle.field = "rows";
                handle.at = {x, height(name), bounds.centre().z};
                handle.axis = {0, 1, 0};
                handle.label =
                    QString("%1 %2").arg(name == std::string("low") ? QObject::tr("from") : QObject::tr("to"),
                                         shownLength(place, height(name)));
                out.push_back(handle);
            }
            Handle carry;
            carry.id = QString("move:%1").arg(i);
            carry.field = "rows";
            const glm::dvec3 by = vectorOf(rows[i], "move");
            carry.at = glm::dvec3(bounds.centre().x, (height("low") + height("high")) / 2, bounds.max.z) + by;
            carry.way = Handle::Way::Across;
            carry.label = by == glm::dvec3(0)
                              ? QObject::tr("drag to move")
                              : QObject::tr("moved %1").arg(shownLength(place, glm::length(by)));
            out.push_back(carry);
        }
        return out;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        auto rows = start.params.value("rows", nlohmann::json::array());
        const auto handle = rowHandle(id, rows);
        if (!handle) return std::nullopt;
        const auto& [what, i] = *handle;
        if (what == "move") {
            const auto bounds = geometry::worldBounds(start.before);
            const glm::dvec3 rest(bounds.centre().x,
                                  (rows[i].value("low", 0.0) + rows[i].value("high", 0.0)) / 2, bounds.max.z);
            rows[i]["move"] = placeIn(move.onto - rest);
        } else {
            const double other = rows[i].value(what == "low" ? "high" : "low", 0.0);
            const double height = rows[i].value(what, 0.0) + move.way;
            rows[i][what] =
                toTenthMillimetres(what == "low" ? std::min(height, other) : std::max(height, other));
        }
        return nlohmann::json{{"rows", rows}};
    }
};

} // namespace

const StepHands& reshapeHands() {
    static const ReshapeHands hands;
    return hands;
}

} // namespace zl::app
