#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Moves, turns and sizes the pictures on chosen parts, as they are seen there: about the middle that all of
/// it has together, each part's own, or the picture's corner. It goes into the UVs, so it holds in every
/// format. Throws Error when the selection cannot be made out.
struct UvPlacement {
    enum class About { Together, Each, Corner };

    Selection faces;
    double across = 0, down = 0; ///< shares of the picture
    double turn = 0;             ///< radians, counter-clockwise
    double wider = 1, taller = 1;
    About about = About::Together;

    static constexpr StepInfo info{"uv-placement", Stage::Surface, "UV placement",
                                   "Move, turn and size pictures on the parts that wear them."};
    static constexpr Choice abouts[] = {{"together", "the middle of all that is chosen"},
                                        {"each", "each part's own middle"},
                                        {"corner", "the picture's upper left corner"}};
    static constexpr auto fields = describe(
        field<&UvPlacement::faces>("faces", "On").leastIs("everything").help("Select it in the view."),
        field<&UvPlacement::across>("across", "To its right")
            .between(-1000, 1000)
            .help("In widths of the picture; less than 0 moves it to its left."),
        field<&UvPlacement::down>("down", "Downward")
            .between(-1000, 1000)
            .help("In heights of the picture; less than 0 moves it upward."),
        field<&UvPlacement::turn>("turn", "Turn").degrees().between(-360, 360).help("Counter-clockwise."),
        field<&UvPlacement::wider>("wider", "Width")
            .share()
            .between(0.001, 1000)
            .help("Of the picture on the model; 200 % shows half of it."),
        field<&UvPlacement::taller>("taller", "Height")
            .share()
            .between(0.001, 1000)
            .help("Of the picture on the model."),
        field<&UvPlacement::about>("about", "Turns about").oneOf(abouts).help("Where it stays in place."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
