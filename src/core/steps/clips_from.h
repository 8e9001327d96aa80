#pragma once
#include "core/steps/bone_pairs.h"

namespace zl::steps {

/// Takes clips of another piece over onto this one's bones.
struct ClipsFrom {
    ModelRef from;
    PartNames clips;
    std::vector<BonePair> pairs;

    static constexpr StepInfo info{
        "clips-from", Stage::Motion, "Clips from another piece",
        "Let this piece move as another one does, with the same bones or other ones."};
    static constexpr auto fields = describe(
        field<&ClipsFrom::from>("from", "Other piece").help("Whose clips are taken; it stays as it is."),
        field<&ClipsFrom::clips>("clips", "Clips")
            .leastIs("all of its")
            .help("Names, with * for any letters."),
        field<&ClipsFrom::pairs>("pairs", "Bones")
            .help("For those that names, hierarchy and places do not bring together rightly."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
