#pragma once
#include "core/contact/changed_pieces.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Gives the model a body for physics of a few convex pieces, made of the whole or of chosen faces, in place
/// of any collider it had or beside it. Says in numbers what the pieces fill that is not there, and what of
/// the model they leave out: `facts` has pieces, corners, filled, missing (shares of the volume) and
/// largestDistance (metres).
struct ConvexPieces {
    enum class Goal { Limit, Number };

    struct Change : contact::PieceChange {
        static constexpr Choice whats[] = {{"merge", "merge"},         {"leave-out", "leave out"},
                                           {"box", "make a box of"},   {"cylinder", "make a cylinder of"},
                                           {"ball", "make a ball of"}, {"capsule", "make a capsule of"}};
        static constexpr auto fields =
            describe(field<&Change::what>("what", "What").oneOf(whats),
                     field<&Change::at>("at", "The piece at").help("A place in it, or near it."),
                     field<&Change::with>("with", "With the one at").when("what", "merge").help("The same."));
    };

    Selection of;
    Goal goal = Goal::Limit;
    int pieces = 10;
    int corners = 64;
    bool beside = false;
    std::vector<Change> changes;

    static constexpr StepInfo info{"convex-pieces", Stage::Contact, "Convex pieces",
                                   "A body of a few convex pieces that physics uses in place of the model."};
    static constexpr Choice goals[] = {{"limit", "fit the platform's limit"}, {"number", "these numbers"}};
    static constexpr auto fields = describe(
        field<&ConvexPieces::of>("of", "Made of")
            .leastIs("everything")
            .help("The faces that the body is made of; where nothing is chosen, all."),
        field<&ConvexPieces::goal>("goal", "Goal").oneOf(goals).help("What decides how many there may be."),
        field<&ConvexPieces::pieces>("pieces", "Pieces at most")
            .between(1, 256)
            .when("goal", "number")
            .help("1 is the hull of everything: what is hollow is filled."),
        field<&ConvexPieces::corners>("corners", "Corners at most")
            .between(4, 255)
            .when("goal", "number")
            .help("Of each piece."),
        field<&ConvexPieces::beside>("beside", "Beside what there is")
            .help("Bodies that steps above made stay; these come to them."),
        field<&ConvexPieces::changes>("changes", "Changed by hand")
            .help("Pieces that are to be otherwise, one after another."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
