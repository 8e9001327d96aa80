#pragma once
#include "core/motion/bone_turns.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Adds a pose as a clip of one key: bones turned by numbers, then hands and feet that reach for places.
/// Bones at rest, shape and other clips stay as they are. Bones that the model has not are said and passed
/// over; a place that cannot be reached is said with how far the end stays away. Turns by numbers go no
/// farther than the bone's limits, where its rig says any.
struct Pose {
    struct BoneTurn {
        fields::BoneRef bone;
        double x = 0, y = 0, z = 0; ///< radians about the bone's own axes, X first

        static constexpr auto fields =
            describe(field<&BoneTurn::bone>("bone", "Bone"),
                     field<&BoneTurn::x>("x", "About X").degrees().between(-180, 180),
                     field<&BoneTurn::y>("y", "About Y").degrees().between(-180, 180),
                     field<&BoneTurn::z>("z", "About Z").degrees().between(-180, 180));
    };
    struct Reach {
        fields::BoneRef end;
        glm::dvec3 to{0};
        glm::dvec3 bend{0, 0, 1}; ///< from the end's own place at rest: to which side the joint between bends

        static constexpr auto fields =
            describe(field<&Reach::end>("end", "Hand or foot"), field<&Reach::to>("to", "Reaches to"),
                     field<&Reach::bend>("bend", "Bends towards"));
    };
    std::string called = "pose";
    std::vector<BoneTurn> turns;
    std::vector<Reach> reaches;
    bool mirrored = false;

    static constexpr StepInfo info{"pose", Stage::Motion, "Pose",
                                   "Turn bones, and let hands and feet reach; kept as a clip of one key."};
    static constexpr auto fields =
        describe(field<&Pose::called>("called", "Called")
                     .help("What the clip is called; one of that name is replaced."),
                 field<&Pose::turns>("turns", "Turned").help("Degrees about the bone's own axes."),
                 field<&Pose::reaches>("reaches", "Reaching")
                     .help("Places in metres; two bones above the end follow."),
                 field<&Pose::mirrored>("mirrored", "Mirrored").help("Left and right changed."));

    StepInputs inputs() const { return {.sheet = true}; }
    /// The bone that a row names, on the other side when mirrored; -1 for one that the model has not.
    int jointOf(const Model& in, const fields::BoneRef& bone) const;
    /// How the rows turn bones by numbers, within the bones' limits, before anything reaches.
    motion::BoneTurns turnedByNumbers(const Model& in) const;
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
