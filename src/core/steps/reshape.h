#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Moves and scales corners by numbers: of the chosen faces, or of all, between two heights, with a falloff.
/// Several rows run one after the other. Scaled is about the middle of what is between the heights, at the
/// lower one. The note says how the file calls the platform's axes. Throws as selection::chosen does.
struct Reshape {
    struct Row {
        double low = 0, high = 1; ///< metres above the floor
        double falloff = 0.05;    ///< metres, beyond both
        glm::dvec3 move{0};       ///< metres
        glm::dvec3 scale{1, 1, 1};

        static constexpr auto fields =
            describe(field<&Row::low>("low", "From height").metres().between(-1000, 1000),
                     field<&Row::high>("high", "To height").metres().between(-1000, 1000),
                     field<&Row::falloff>("falloff", "Falls off").metres().between(0, 1000),
                     field<&Row::move>("move", "Moved by"), field<&Row::scale>("scale", "Scaled by"));
    };
    Selection faces;
    std::vector<Row> rows;

    static constexpr StepInfo info{"reshape", Stage::Shape, "Reshape",
                                   "Move and scale corners between two heights, by numbers."};
    static constexpr auto fields = describe(
        field<&Reshape::faces>("faces", "Of").leastIs("all of it").help("Only the corners of these faces."),
        field<&Reshape::rows>("rows", "Changes").help("X and Z are level, Y is up; one after the other."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
