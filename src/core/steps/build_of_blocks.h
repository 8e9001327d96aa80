#pragma once
#include "core/blocks/made.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Builds all that the model shows, as it stands, of the platform's blocks, and puts the build in its place:
/// blocks::made() says how. Bones, clips, pictures and bodies stay behind, and a note says so. `facts` has
/// size (blocks), metres, factor, count, byKind, components, volumeError (share of the volume), left and
/// right (the same for either side on both), plane (metres), strays (each with its blocks and place, in
/// metres of the world), withoutSlopes, withoutHollow and kilograms. Throws Error for a model without faces,
/// and for a size that is none or too large.
struct BuildOfBlocks {
    enum class By { Blocks, Length, Like, Factor };
    enum class Axis { Across, Up, Along };
    enum class Both { Better, Left, Right, Averaged, No };
    enum class Where { Found, Given };
    enum class Inside { Hollow, Braces, Full };
    enum class Thin { One, Volume };

    By by = By::Blocks;
    Axis axis = Axis::Along;
    int blocks = 40;
    double length = 10;
    ModelRef like{ModelRef::Kind::Yardstick, ""};
    double factor = 1;
    blocks::Slopes slopes = blocks::Slopes::WhereTheyHelp;
    Both both = Both::Better;
    Where where = Where::Found;
    double plane = 0;
    Inside inside = Inside::Hollow;
    int wall = 1;
    Thin thin = Thin::One;
    double thinner = 1.25;
    blocks::ThinSide side = blocks::ThinSide::Nearest;
    int strays = 8;

    static constexpr StepInfo info{"build-of-blocks", Stage::Shape, "Build of blocks",
                                   "The model as a build of the platform's blocks."};
    static constexpr Choice sizes[] = {{"blocks", "so many blocks"},
                                       {"length", "its real length"},
                                       {"like", "another model's length"},
                                       {"factor", "times as large"}};
    static constexpr Choice axes[] = {{"across", "across"}, {"up", "up"}, {"along", "along"}};
    static constexpr Choice slopeUses[] = {
        {"none", "none"}, {"where-they-help", "where they help"}, {"everywhere", "everywhere"}};
    static constexpr Choice halves[] = {{"better", "the better side"},
                                        {"left", "the left side"},
                                        {"right", "the right side"},
                                        {"averaged", "averaged"},
                                        {"no", "as they are"}};
    static constexpr Choice planes[] = {{"found", "found by itself"}, {"given", "given"}};
    static constexpr Choice insides[] = {
        {"hollow", "hollow"}, {"braces", "hollow with braces"}, {"full", "full"}};
    static constexpr Choice thins[] = {{"one", "one block"}, {"volume", "by volume"}};
    static constexpr Choice thinSides[] = {
        {"nearest", "where they are"}, {"outward", "outward"}, {"inward", "inward"}};
    static constexpr auto fields = describe(
        field<&BuildOfBlocks::by>("by", "Size by").oneOf(sizes).help("What decides how large it becomes."),
        field<&BuildOfBlocks::axis>("axis", "Measured")
            .oneOf(axes)
            .when("by", "blocks length like")
            .help("Across is from side to side, along from the back to the front."),
        field<&BuildOfBlocks::blocks>("blocks", "Blocks")
            .between(1, 2000)
            .when("by", "blocks")
            .help("So many from end to end."),
        field<&BuildOfBlocks::length>("length", "Length")
            .metres()
            .between(0.001, 100000)
            .when("by", "length")
            .help("As long as the real one is."),
        field<&BuildOfBlocks::like>("like", "As long as")
            .when("by", "like")
            .leastIs("the first yardstick")
            .help("A yardstick, or another piece as it comes out here."),
        field<&BuildOfBlocks::factor>("factor", "Times")
            .between(1e-4, 1e4)
            .when("by", "factor")
            .help("1 is as large as the model."),
        field<&BuildOfBlocks::slopes>("slopes", "Slopes")
            .oneOf(slopeUses)
            .help("Half blocks and corners, each where it comes nearest to the model's volume."),
        field<&BuildOfBlocks::both>("both", "Both sides as")
            .oneOf(halves)
            .help("Alike, they have one block on the centre line."),
        field<&BuildOfBlocks::where>("where", "Centre line")
            .oneOf(planes)
            .help("The column in the middle. Found, it is where both sides are most alike."),
        field<&BuildOfBlocks::plane>("plane", "At X")
            .metres()
            .between(-1e5, 1e5)
            .when("where", "given")
            .help("Before it grows."),
        field<&BuildOfBlocks::inside>("inside", "Inside")
            .oneOf(insides)
            .help("Braces are what of the model's own surfaces runs inside: decks, ribs, struts."),
        field<&BuildOfBlocks::wall>("wall", "Wall")
            .between(1, 64)
            .when("inside", "hollow braces")
            .help("In blocks."),
        field<&BuildOfBlocks::thin>("thin", "Thin parts")
            .oneOf(thins)
            .help("Wings, fins and sails. Surfaces that enclose nothing are one block in any case."),
        field<&BuildOfBlocks::thinner>("thinner", "Thinner than")
            .between(0.1, 8)
            .when("thin", "one")
            .help("In blocks."),
        field<&BuildOfBlocks::side>("side", "They stand")
            .oneOf(thinSides)
            .help("Where the one block goes when they lie between two."),
        field<&BuildOfBlocks::strays>("strays", "Drop strays below")
            .between(0, 100000)
            .leastIs("none")
            .help("Pieces of fewer blocks that hold to nothing: crumbs, wires."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
