// Hands for pieces that are worn by another or stand beside it: each is taken hold of where its origin is,
// and turned by a second mark.
#include "app/hands/row_values.h"
#include "app/hands/step_hands.h"
#include "app/qt_text.h"

#include "core/motion/attached.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::app {

namespace {

std::string pieceIn(const nlohmann::json& row) {
    const auto item = row.find("item");
    return item == row.end() || !item->is_object() || item->empty() ? "" : item->begin()->get<std::string>();
}

/// A mark to move the item of a row, and one to turn it about the vertical.
void addHandles(std::vector<Handle>& handles, std::size_t row, const nlohmann::json& item,
                const glm::dvec3& at, double reach, Handle::Way way) {
    const double turn = item.value("turn", 0.0);
    Handle move;
    move.id = QString("move:%1").arg(row);
    move.field = "items";
    move.at = at;
    move.way = way;
    move.label = qs(pieceIn(item));
    handles.push_back(move);
    Handle ring;
    ring.id = QString("turn:%1").arg(row);
    ring.field = "items";
    ring.way = Handle::Way::Around;
    ring.axis = {0, 1, 0};
    ring.centre = at;
    const double angle = glm::radians(turn);
    ring.at = at + reach * glm::dvec3(std::sin(angle), 0, std::cos(angle));
    ring.label = QString("%1°").arg(qs(showNumber(turn)));
    ring.quiet = true;
    handles.push_back(ring);
}

double turnedBy(const nlohmann::json& item, double radians) {
    return toTenthDegrees(std::remainder(item.value("turn", 0.0) + glm::degrees(radians), 360.0));
}

using Items = nlohmann::json;

/// The items with what `change` does to the one that a handle is of: it gets the item and which handle of
/// it, and answers whether it could.
template <class Change>
std::optional<nlohmann::json> changed(const HandsPlace& start, const std::string& id, const Change& change) {
    Items items = start.params.value("items", Items::array());
    const auto handle = rowHandle(id, items);
    if (!handle || !change(items[handle->row], *handle)) return std::nullopt;
    return nlohmann::json{{"items", items}};
}

class WearHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& where) const override {
        std::vector<Handle> out;
        const Items items = where.params.value("items", Items::array());
        const auto rest = worldMatrices(where.before);
        for (std::size_t i = 0; i < items.size(); ++i) {
            const auto bone = boneOf(where, rest, items[i]);
            if (!bone || pieceIn(items[i]).empty() || !items[i].value("shown", true)) continue;
            const glm::dvec3 atRest = glm::dvec3(bone->rest[3]) + vectorOf(items[i], "offset");
            addHandles(out, i, items[i], glm::dvec3(bone->moved * glm::dvec4(atRest, 1)), 0.15,
                       Handle::Way::Across);
        }
        return out;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        return changed(start, id, [&](nlohmann::json& item, const RowHandle& handle) {
            const auto bone = boneOf(start, worldMatrices(start.before), item);
            if (!bone) return false;
            if (handle.what == "turn")
                item["turn"] = turnedBy(item, move.way);
            else
                item["offset"] = placeIn(glm::dvec3(glm::inverse(bone->moved) * glm::dvec4(move.onto, 1)) -
                                         glm::dvec3(bone->rest[3]));
            return true;
        });
    }

private:
    struct Bone {
        glm::dmat4 rest;  ///< where the joint is at rest
        glm::dmat4 moved; ///< what the pose that is seen does to what hangs there
    };
    static std::optional<Bone> boneOf(const HandsPlace& where, const std::vector<glm::dmat4>& rest,
                                      const nlohmann::json& item) {
        const std::string name = item.value("bone", "");
        const int joint = motion::jointNamed(where.before, name),
                  shown = motion::jointNamed(where.shown, name);
        if (joint < 0) return std::nullopt;
        Bone bone{rest[std::size_t(joint)], glm::dmat4(1.0)};
        if (shown >= 0 && std::size_t(shown) < where.stands.size() &&
            std::abs(glm::determinant(bone.rest)) > 1e-30)
            bone.moved = where.stands[std::size_t(shown)] * glm::inverse(bone.rest);
        if (!(std::abs(glm::determinant(bone.moved)) > 1e-30)) bone.moved = glm::dmat4(1.0);
        return bone;
    }
};

/// Where the items stand that were set beside: the step adds them behind what was there, each as a node of
/// its own at the top, in the order of the rows.
std::vector<std::pair<std::size_t, glm::dvec3>> standing(const HandsPlace& where,
                                                         const nlohmann::json& items) {
    std::vector<std::pair<std::size_t, glm::dvec3>> out;
    const auto world = worldMatrices(where.after);
    std::size_t node = where.before.nodes.size();
    for (std::size_t i = 0; i < items.size(); ++i) {
        const std::string name = pieceIn(items[i]);
        while (node < where.after.nodes.size() && where.after.nodes[node].parent >= 0) ++node;
        if (name.empty() || node >= where.after.nodes.size() || where.after.nodes[node].name != name)
            continue;
        // The node's own placement within its drawing does not move where its origin stands.
        out.emplace_back(i, glm::dvec3(world[node++][3]));
    }
    return out;
}

class BesideHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& where) const override {
        std::vector<Handle> out;
        const auto items = where.params.value("items", nlohmann::json::array());
        for (const auto& [row, at] : standing(where, items))
            addHandles(out, row, items[row], at, 0.3, Handle::Way::Level);
        return out;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        return changed(start, id, [&](nlohmann::json& item, const RowHandle& handle) {
            // What stands in the row goes on to stand where it is, and is moved from there.
            for (const auto& [other, stood] : standing(start, start.params["items"]))
                if (other == handle.row && !item.value("placed", false))
                    item["placed"] = true, item["at"] = placeIn(stood);
            if (handle.what == "turn")
                item["turn"] = turnedBy(item, move.way);
            else
                item["at"] = placeIn(move.onto);
            return true;
        });
    }
};

} // namespace

const StepHands& wearHands() {
    static const WearHands hands;
    return hands;
}

const StepHands& besideHands() {
    static const BesideHands hands;
    return hands;
}

} // namespace zl::app
