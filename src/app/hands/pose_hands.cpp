#include "app/hands/step_hands.h"

#include "app/qt_text.h"

#include "core/base/letters.h"
#include "core/motion/attached.h"
#include "core/motion/bone_turns.h"
#include "core/motion/posed.h"

#include <algorithm>

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

/// A mark on each hand and foot; dragged across the view, the arm or leg follows.
class PoseHands final : public StepHands {
public:
    std::vector<Handle> handles(const HandsPlace& place) const override {
        const Clip* clip = clipOf(place);
        const auto world = clip ? motion::posed(place.after, *clip, 0).world : worldMatrices(place.after);
        std::vector<Handle> handles;
        for (const int joint : motion::jointsOf(place.after)) {
            if (!isEnd(place.after, joint)) continue;
            Handle handle;
            const std::string& name = place.after.nodes[std::size_t(joint)].name;
            handle.id = qs(name);
            handle.field = "reaches";
            handle.at = glm::dvec3(world[std::size_t(joint)][3]);
            handle.way = Handle::Way::Across;
            handle.label = qs(name);
            handle.quiet = true;
            handles.push_back(handle);
        }
        return handles;
    }

    std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                          const HandleMove& move) const override {
        const bool mirrored = start.params.value("mirrored", false);
        const std::string end = mirrored ? motion::otherSide(id) : id;
        const nlohmann::json to{mirrored ? -move.onto.x : move.onto.x, move.onto.y, move.onto.z};
        nlohmann::json reaches = start.params.value("reaches", nlohmann::json::array());
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

    std::string clipToShow(const HandsPlace& place) const override {
        return place.params.value("called", "");
    }

private:
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
