#pragma once
#include "core/geometry/part_places.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Takes parts of another piece in, each onto a node of this one: by position alone, unless turn or size are
/// asked for. What the node shows leaves; the node stays, with its name and what hangs below it, but for what
/// is named to leave too. Parts come with their materials, pictures and settings; what is called as something
/// here but is not the same gets a new name, and the note lists those. Without rows, parts and places are
/// paired by names, else by where they are. Throws Error when the other piece is not to be had, or has no
/// such part, or this one no such place.
struct TakeParts {
    struct Row {
        std::string part;
        std::string place;
        geometry::By by = geometry::By::Centre;
        bool turned = false, sized = false, mirrored = false;
        glm::dvec3 offset{0}; ///< metres, along the world's axes
        std::string along; ///< node of this piece that is moved too, such as the hub that the place hangs on

        static constexpr Choice places[] = {{"centre", "centre to centre"}, {"origin", "origin to origin"},
                                            {"foot", "foot to foot"},       {"top", "top to top"},
                                            {"left", "left side to left"},  {"right", "right side to right"},
                                            {"front", "front to front"},    {"back", "back to back"}};
        static constexpr auto fields = describe(
            field<&Row::part>("part", "Part of the other"), field<&Row::place>("place", "Onto"),
            field<&Row::by>("by", "Put").oneOf(places), field<&Row::turned>("turned", "Turned as it was"),
            field<&Row::sized>("sized", "As large as it was"), field<&Row::mirrored>("mirrored", "Mirrored"),
            field<&Row::offset>("offset", "Moved by"),
            field<&Row::along>("along", "Along goes").leastIs("nothing"));
    };
    ModelRef from;
    PartNames parts, places, without, leaving;
    std::vector<Row> rows;

    static constexpr StepInfo info{"take-parts", Stage::Shape, "Take parts from",
                                   "Put parts of another piece, such as wheels, onto this one's nodes."};
    static constexpr auto fields = describe(
        field<&TakeParts::from>("from", "Other piece").help("Whose parts are taken; it stays as it is."),
        field<&TakeParts::parts>("parts", "All of its")
            .leastIs("those in the rows")
            .help("Names of its parts, with *; each finds its place by name or by where it is."),
        field<&TakeParts::places>("places", "Onto")
            .leastIs("those of the same names")
            .help("Names of this piece's nodes, with *."),
        field<&TakeParts::without>("without", "But not")
            .leastIs("all that hangs below them")
            .help("What hangs below the parts and stays behind, such as brake*."),
        field<&TakeParts::leaving>("leaving", "Leaves too")
            .leastIs("nothing else")
            .help("What hangs below the places and goes with what they showed, such as tyre*."),
        field<&TakeParts::rows>("rows", "One by one").help("Part of the other onto a node of this one."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
