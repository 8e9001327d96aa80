#pragma once
#include "app/view/tools/handle_tool.h"

#include "core/platform/sheet.h"
#include "core/steps/step.h"

#include <memory>

namespace zl::app {

/// What a step's handles are made from. Models are cheap to copy.
struct HandsPlace {
    nlohmann::json params; ///< the step's
    Model before, after;   ///< the step
    Model shown;           ///< what stands in the view, behind all steps
    std::shared_ptr<const platform::Sheet> sheet;
    std::vector<glm::dmat4> stands{}; ///< where the shown model's nodes are, in the pose that is seen
    glm::dvec3 towards{0};            ///< from what is shown to who looks at it; zero where that is not known
};

/// The handles that a step has in the view, and what dragging one does to its parameters.
class StepHands {
public:
    virtual ~StepHands() = default;
    virtual std::vector<Handle> handles(const HandsPlace& place) const = 0;
    /// Parameters to set when the handle `id` was dragged, by what things were when it was pressed; nothing
    /// when it cannot go there.
    virtual std::optional<nlohmann::json> dragged(const HandsPlace& start, const std::string& id,
                                                  const HandleMove& move) const = 0;
    /// The clip in which the step's work is seen; empty where it is seen at rest.
    virtual std::string clipToShow(const HandsPlace&) const { return {}; }
};

/// A length in the platform's unit, for a handle's label.
QString shownLength(const HandsPlace& place, double metres);

/// Those of a step; null for one that has none. Listed in step_hands.cpp.
const StepHands* handsOf(std::string_view step);

/// Takes places in the world before a step to where they stand in the view, as far as that can be told.
glm::dmat4 toShown(const Model& before, const Model& shown);

const StepHands& turnHands();
const StepHands& sizeHands();
const StepHands& headingHands();
const StepHands& originHands();
const StepHands& colliderHands();
const StepHands& poseHands();
const StepHands& wearHands();
const StepHands& besideHands();
const StepHands& reshapeHands();
const StepHands& takePartsHands();
const StepHands& uvPlacementHands();
const StepHands& eyesHands();

} // namespace zl::app
