#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// The chosen faces or parts are not there from here on. Throws Error when the selection cannot be made out
/// on this model (selection::chosen).
struct LeaveOut {
    Selection faces;

    static constexpr StepInfo info{"leave-out", Stage::Shape, "Leave out",
                                   "Take chosen faces or parts away from here on."};
    static constexpr auto fields = describe(
        field<&LeaveOut::faces>("faces", "What").leastIs("nothing yet").help("Select it in the view."));

    Model apply(const Model& in, StepContext& context) const;
    selection::Chosen takes(const Model& in, StepContext& context) const;
};

/// What cannot be seen from anywhere outside is not there from here on (geometry::hiddenFaces).
struct RemoveHidden {
    enum class What { Parts, Faces };

    What what = What::Parts;
    PartNames parts;
    int rays = 256;

    static constexpr StepInfo info{"remove-hidden", Stage::Shape, "Remove hidden inner parts",
                                   "Take away what cannot be seen from outside; shown first."};
    static constexpr Choice whats[] = {{"parts", "whole loose parts"}, {"faces", "single faces too"}};
    static constexpr auto fields =
        describe(field<&RemoveHidden::what>("what", "Remove")
                     .oneOf(whats)
                     .help("A loose part goes when no face of it can be seen; faces go each by itself."),
                 field<&RemoveHidden::parts>("parts", "Of")
                     .leastIs("all of them")
                     .help("Names of objects, with * for any letters."),
                 field<&RemoveHidden::rays>("rays", "Directions")
                     .between(16, 1024)
                     .help("Looked at from every face; more find narrower gaps and take longer."));

    /// Looks first: what it would take away is shown before it is turned on.
    static constexpr bool looksFirst = true;
    Model apply(const Model& in, StepContext& context) const;
    selection::Chosen takes(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
