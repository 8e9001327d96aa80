#include "app/hands/row_values.h"
#include "app/hands/step_hands.h"
#include "app/qt_text.h"

#include "core/base/letters.h"
#include "core/fields/table.h"
#include "core/motion/attached.h"
#include "core/motion/bone_turns.h"
#include "core/motion/posed.h"
#include "core/steps/pose.h"

#include <algorithm>
#include <set>

namespace zl::app {

namespace {

/// Bones at which an arm or a leg is taken hold of.
bool isEnd(const Model& model, int joint) {
    const std::string name = lowerCase(model.nodes[std::size_t(joint)].name);
    const auto has = [&](const char* word) { return name.find(word) != std::string::npos; };
    if (!has("hand") && !has("foot") && !has("wrist") && !has("ankle")) return false;
    const int above = model.nodes[std::size_t(joint)].parent;
    return above >= 0 && model.nodes[std::size_t(above)].parent >= 0;
}

nlohmann::json rowsOf(const HandsPlace& place, const char* field) {
    return place.params.value(field, nlohmann::json::array());
}

/// The step as its card has it; its defaults while a row is not whole.
steps::Pose stepOf(const HandsPlace& place) {
    steps::Pose pose;
    try {
        fields::readInto(steps::Pose::fields, &pose, place.params, "pose");
    } catch (const Error&) {
        return {};
    }
    return pose;
}

/// The bones that follow a hand or foot which reaches somewhere.
std::set<int> following(const HandsPlace& place) {
    std::set<int> out;
    const steps::Pose pose = stepOf(place);
    for (const auto& reach : pose.reaches) {
        int node = pose.jointOf(place.before, reach.end);
        for (int up = 0; up < 2 && node >= 0; ++up)
            if (node = place.before.nodes[std::size_t(node)].parent; node >= 0) out.insert(node);
    }
    return out;
}

const std::string aim = "aim:";

/// A mark on each hand and foot, which the arm or leg follows, and a small one on the end of every other
/// bone, which aims it; both are dragged across the view.
class PoseHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const Clip* clip = clipOf(place);
        const auto world = clip ? motion::posed(place.after, *clip, 0).world : worldMatrices(place.after);
        const auto joints = motion::jointsOf(place.after);
        const auto led = following(place);
        const double least = 0.02 * heightOf(world, joints);
        std::vector<Handle> handles;
        const auto isHeld = [&](const glm::dvec3& at) { // by a hand or foot there
            return std::ranges::any_of(joints, [&](int joint) {
                return isEnd(place.after, joint) &&
                       glm::distance(at, glm::dvec3(world[std::size_t(joint)][3])) < least;
            });
        };
        for (const int joint : joints) {
            Handle handle;
            const std::string& name = place.after.nodes[std::size_t(joint)].name;
            handle.way = Handle::Way::Across;
            handle.label = qs(name);
            handle.quiet = true;
            if (isEnd(place.after, joint)) {
                handle.id = qs(name);
                handle.field = "reaches";
                handle.at = glm::dvec3(world[std::size_t(joint)][3]);
                handles.push_back(handle);
            } else if (!led.contains(joint) && place.after.nodes[std::size_t(joint)].parent >= 0) {
                const glm::dvec3 end(world[std::size_t(joint)] *
                                     glm::dvec4(motion::endOf(place.after, joint), 1));
                if (glm::distance(end, glm::dvec3(world[std::size_t(joint)][3])) < least || isHeld(end))
                    continue;
                handle.id = qs(aim + name);
                handle.field = "turns";
                handle.at = end;
                handle.small = true;
                handles.push_back(handle);
            }
        }
        return handles;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        return id.starts_with(aim) ? aimed(start, id.substr(aim.size()), move.onto)
                                   : reaching(start, id, move.onto);
    }

    std::string clipToShow(const HandsPlace& place) const override {
        return place.params.value("called", "");
    }

private:
    static double heightOf(const std::vector<glm::dmat4>& world, const std::vector<int>& joints) {
        double low = 1e30, high = -1e30;
        for (const int joint : joints)
            low = std::min(low, world[std::size_t(joint)][3].y),
            high = std::max(high, world[std::size_t(joint)][3].y);
        return std::max(0.0, high - low);
    }

    static std::optional<nlohmann::json> aimed(const HandsPlace& start, const std::string& name,
                                               const glm::dvec3& at) {
        const int bone = motion::jointNamed(start.before, name);
        if (bone < 0) return std::nullopt;
        const steps::Pose pose = stepOf(start);
        const auto turns = motion::aimed(start.before, pose.turnedByNumbers(start.before), bone,
                                         motion::endOf(start.before, bone), at);
        const bool mirrored = pose.mirrored;
        const double over = mirrored ? -1 : 1;
        const glm::dvec3 angles = glm::degrees(motion::anglesOf(turns.at(bone)));
        const nlohmann::json row{{"bone", mirrored ? motion::otherSide(name) : name},
                                 {"x", toTenthDegrees(angles.x)},
                                 {"y", toTenthDegrees(over * angles.y)},
                                 {"z", toTenthDegrees(over * angles.z)}};
        auto rows = rowsOf(start, "turns");
        for (auto& other : rows)
            if (other.value("bone", "") == row["bone"]) {
                other = row;
                return nlohmann::json{{"turns", rows}};
            }
        rows.push_back(row);
        return nlohmann::json{{"turns", rows}};
    }

    static std::optional<nlohmann::json> reaching(const HandsPlace& start, const std::string& id,
                                                  const glm::dvec3& at) {
        const bool mirrored = start.params.value("mirrored", false);
        const std::string end = mirrored ? motion::otherSide(id) : id;
        const nlohmann::json to{mirrored ? -at.x : at.x, at.y, at.z};
        auto reaches = rowsOf(start, "reaches");
        for (auto& row : reaches)
            if (row.value("end", "") == end) {
                row["to"] = to;
                return nlohmann::json{{"reaches", reaches}};
            }
        const bool leg = lowerCase(id).find("foot") != std::string::npos ||
                         lowerCase(id).find("ankle") != std::string::npos;
        reaches.push_back(
            {{"end", end}, {"to", to}, {"bend", {0, 0, leg ? 1 : -1}}}); // knees forward, elbows back
        return nlohmann::json{{"reaches", reaches}};
    }

    static const Clip* clipOf(const HandsPlace& place) {
        const std::string called = place.params.value("called", "");
        for (const auto& clip : place.after.clips)
            if (clip->name == called) return clip.get();
        return nullptr;
    }
};

} // namespace

const StepHands& poseHands() {
    static const PoseHands hands;
    return hands;
}

} // namespace zl::app
