#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Lays the picture of one panel so that what it shows goes on from another across their seam: a stripe does
/// not break. The panel's picture is moved, turned and sized by least squares along the seam; what is left is
/// measured. Throws Error when a selection cannot be made out or the panels do not meet.
struct RunOn {
    Selection from, onto;
    double within = 0.001; ///< metres between borders that count as sewn
    bool size = true, mirror = false;

    static constexpr StepInfo info{"run-on", Stage::Surface, "Run on across a seam",
                                   "Let a stripe go on from one panel to the next."};
    static constexpr auto fields = describe(
        field<&RunOn::from>("from", "From").leastIs("nothing yet").help("The panel that stays as it is."),
        field<&RunOn::onto>("onto", "Onto").leastIs("nothing yet").help("The panel that follows."),
        field<&RunOn::within>("within", "Seam within")
            .metres()
            .between(0, 1)
            .help("How far apart borders may be and still count as sewn together."),
        field<&RunOn::size>("size", "Size follows").help("Off keeps the picture's size on the panel."),
        field<&RunOn::mirror>("mirror", "Mirrored")
            .help("Turns the picture over on the panel, where the two were laid out face to face."));

    Model apply(const Model& in, StepContext& context) const;
};

/// Lays the picture of a panel so that one of its edges runs along the seam to another: nothing of what it
/// shows goes on across. Throws as RunOn does.
struct StopAtSeam {
    enum class Edge { Upper, Lower, Left, Right };

    Selection panel, against;
    double within = 0.001;
    Edge edge = Edge::Upper;

    static constexpr StepInfo info{"stop-at-seam", Stage::Surface, "Stop at a seam",
                                   "Let a picture begin at a seam with one of its edges."};
    static constexpr Choice edges[] = {{"upper", "its upper edge"},
                                       {"lower", "its lower edge"},
                                       {"left", "its left edge"},
                                       {"right", "its right edge"}};
    static constexpr auto fields =
        describe(field<&StopAtSeam::panel>("panel", "Panel")
                     .leastIs("nothing yet")
                     .help("The one whose picture is moved."),
                 field<&StopAtSeam::against>("against", "Seam to")
                     .leastIs("nothing yet")
                     .help("The panel on the other side, which stays as it is."),
                 field<&StopAtSeam::edge>("edge", "Along it")
                     .oneOf(edges)
                     .help("What of the picture lies on the seam."),
                 field<&StopAtSeam::within>("within", "Seam within")
                     .metres()
                     .between(0, 1)
                     .help("How far apart borders may be and still count as sewn together."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
