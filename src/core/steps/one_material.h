#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Several materials become one, with one picture for each role that any of them has: their pictures are laid
/// side by side, plain colours become small patches, UVs move along. UVs that repeat a picture are unrolled;
/// what would need more repeats than allowed is refused with its name and by how much. Objects keep their
/// corners, triangles and order, but for corners that two materials shared, which are doubled. Refuses with
/// Error when the tiles do not fit into a picture of the wanted edge however small they are made.
struct OneMaterial {
    enum class Scope { All, Each };
    enum class Keep { All, Colour };

    Scope scope = Scope::All;
    PartNames parts;
    Keep keep = Keep::All;
    int edge = 0;    ///< pixels; 0 for the platform's limit
    int repeats = 4; ///< along each axis
    int padding = 4; ///< pixels around each tile
    std::string name;

    static constexpr StepInfo info{"one-material", Stage::Surface, "One material",
                                   "Make one material with one picture of several."};
    static constexpr Choice scopes[] = {{"all", "all together"}, {"each", "each by itself"}};
    static constexpr Choice kept[] = {{"all", "every picture there is"}, {"colour", "colour alone"}};
    static constexpr auto fields = describe(
        field<&OneMaterial::scope>("scope", "Objects").oneOf(scopes).help("What wears the one material."),
        field<&OneMaterial::parts>("parts", "Of")
            .leastIs("all of them")
            .help("Names, with * for any letters, separated by commas. Empty is all of them."),
        field<&OneMaterial::keep>("keep", "Pictures")
            .oneOf(kept)
            .help("Relief, roughness, glow and the like, or one picture only."),
        field<&OneMaterial::edge>("edge", "Picture edge")
            .between(0, 8192)
            .leastIs("the platform's limit")
            .help("Largest side of the picture in pixels; a power of two at most this is taken."),
        field<&OneMaterial::repeats>("repeats", "Unroll repeats up to")
            .between(1, 256)
            .help("How often a picture may stand side by side where UVs repeat it."),
        field<&OneMaterial::padding>("padding", "Padding")
            .between(0, 64)
            .help("Pixels around each part, so that neighbours do not bleed into it."),
        field<&OneMaterial::name>("name", "Call it")
            .leastIs("the largest's")
            .help("Empty takes the name of the material with the most surface, or each object's own."));

    StepInputs inputs() const { return {.sheet = edge == 0}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
