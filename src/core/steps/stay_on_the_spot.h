#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Takes the movement of the whole, or of a chosen node, out of clips: along the ground or along chosen axes,
/// all of it or only its steady part, so that bobbing stays. Everything below the node keeps its place
/// relative to it. How far each clip went is said, and can be kept with the clip (Clip::way) for a game that
/// adds it back.
struct StayOnTheSpot {
    enum class Axes { Ground, Forward, Sideways, Up, All };
    enum class What { Steady, All };

    PartNames of;
    Axes axes = Axes::Ground;
    What what = What::Steady;
    fields::NodeRef node;
    bool keep = true;

    static constexpr StepInfo info{"stay-on-the-spot", Stage::Motion, "Stay on the spot",
                                   "Take the way that a clip goes out of it."};
    static constexpr Choice axesChoices[] = {{"ground", "along the ground"},
                                             {"forward", "forward and back"},
                                             {"sideways", "sideways"},
                                             {"up", "up and down"},
                                             {"all", "every way"}};
    static constexpr Choice whats[] = {{"steady", "its steady part"}, {"all", "all movement"}};
    static constexpr auto fields = describe(
        field<&StayOnTheSpot::of>("of", "Clips").leastIs("every clip").help("Names, with * for any letters."),
        field<&StayOnTheSpot::axes>("axes", "Take out").oneOf(axesChoices).help("As the piece stands now."),
        field<&StayOnTheSpot::what>("what", "Of it")
            .oneOf(whats)
            .help("The steady part is a straight way from the first place to the last: bobbing and swaying "
                  "stay."),
        field<&StayOnTheSpot::node>("node", "Of the node")
            .leastIs("that carries the whole")
            .help("The lowest that moves with everything below it."),
        field<&StayOnTheSpot::keep>("keep", "Keep the way for the game")
            .help("What was taken out is delivered as a number beside the clip, where the files have a place "
                  "for it."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
