#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives the model a concave surface for physics: its own faces, reduced to a limit, or those of another
/// model that was made for it. Says how far it is off, and what would be filled were it taken for one convex
/// piece: `facts` has triangles, largestDistance (metres) and hullFilled (share of the volume).
struct CollisionMesh {
    enum class From { Itself, Other };
    enum class Goal { Limit, Number };

    From from = From::Itself;
    Selection of;
    ModelRef other;
    Goal goal = Goal::Limit;
    int number = 2000;

    static constexpr StepInfo info{
        "collision-mesh", Stage::Contact, "Collision mesh",
        "A lighter surface, with its hollows, that physics uses in place of the model."};
    static constexpr Choice froms[] = {{"itself", "the model itself"}, {"other", "another model"}};
    static constexpr Choice goals[] = {{"limit", "fit the platform's limit"}, {"number", "a number"}};
    static constexpr auto fields = describe(
        field<&CollisionMesh::from>("from", "Made of").oneOf(froms).help("Whose faces it has."),
        field<&CollisionMesh::of>("of", "Faces")
            .leastIs("everything")
            .when("from", "itself")
            .help("The faces that it is made of; where nothing is chosen, all."),
        field<&CollisionMesh::other>("other", "Model")
            .when("from", "other")
            .help("A model in the same place and size that was made for collision."),
        field<&CollisionMesh::goal>("goal", "Goal").oneOf(goals).help("What decides how many faces stay."),
        field<&CollisionMesh::number>("number", "Keep below")
            .between(4, 10000000)
            .when("goal", "number")
            .help("Faces that may stay."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
