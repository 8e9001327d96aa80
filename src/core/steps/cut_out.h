#pragma once
#include "core/selection/cut_out.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Chosen faces become an object of their own, one for each object that they are of (selection::cutOut).
/// Throws Error when the selection cannot be made out on this model.
struct CutOut {
    enum class Way { Cut, Copy };
    enum class Wears { AsBefore, Copies, New };

    Selection faces;
    Way way = Way::Cut;
    std::string name;
    Wears wears = Wears::AsBefore;
    selection::Border border = selection::Border::AsChosen;

    static constexpr StepInfo info{"cut-out", Stage::Shape, "Cut out",
                                   "Make an object of its own of chosen faces; no gap and no seam shows."};
    static constexpr Choice ways[] = {{"cut", "is cut out"}, {"copy", "is copied out; the original stays whole"}};
    static constexpr Choice materials[] = {{"as-before", "the materials that it has"},
                                           {"copies", "copies of them, to be changed alone"},
                                           {"new", "a new one"}};
    static constexpr Choice borders[] = {{"as-chosen", "whoever it was chosen for"},
                                         {"part", "the part"},
                                         {"rest", "the rest"}};
    static constexpr auto fields = describe(
        field<&CutOut::faces>("faces", "What").leastIs("nothing yet").help("Select it in the view."),
        field<&CutOut::way>("way", "It").oneOf(ways).help("Copied faces are there twice."),
        field<&CutOut::name>("name", "Called")
            .leastIs("after where it comes from")
            .help("Of several objects the others get a number."),
        field<&CutOut::wears>("wears", "Wears").oneOf(materials).help("A copy or a new one is called as the part is."),
        field<&CutOut::border>("border", "Border triangles")
            .oneOf(borders)
            .help("Who keeps a triangle all of whose corners lie on the border."));

    Model apply(const Model& in, StepContext& context) const;
};

/// What was cut out goes back into the object that it came from, in the old order (selection::joinedBack).
struct JoinBack {
    PartNames parts;
    selection::Weld weld = selection::Weld::Part;

    static constexpr StepInfo info{"join-back", Stage::Shape, "Join back",
                                   "Put what was cut out back where it came from, joined along the border."};
    static constexpr Choice welds[] = {
        {"part", "as the part has it"}, {"rest", "as the rest has it"}, {"middle", "in the middle"}};
    static constexpr auto fields = describe(
        field<&JoinBack::parts>("parts", "Parts")
            .leastIs("all that were cut out")
            .help("Names of the parts, with * for any letters."),
        field<&JoinBack::weld>("weld", "The border").oneOf(welds).help("Where both sides were moved apart."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
