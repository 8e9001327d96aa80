#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Makes objects of parts. Everything stays where it is; clips and bones keep working.
struct SplitParts {
    enum class By { Material, LoosePart, Name };

    By by = By::Material;
    PartNames parts;

    static constexpr StepInfo info{"split-parts", Stage::Shape, "Parts as objects",
                                   "Give each material, loose part or named node an object of its own."};
    static constexpr Choice ways[] = {{"material", "one a material"},
                                      {"loose", "one a loose part"},
                                      {"name", "these, out of their groups"}};
    static constexpr auto fields =
        describe(field<&SplitParts::by>("by", "Objects")
                     .oneOf(ways)
                     .help("A loose part is made of triangles that share no corner with others."),
                 field<&SplitParts::parts>("parts", "Of")
                     .leastIs("all of them")
                     .help("Names, with * for any letters, separated by commas. Empty is all of them."));

    Model apply(const Model& in, StepContext& context) const;
};

/// Makes one object of several.
struct JoinParts {
    PartNames parts;
    std::string name;

    static constexpr StepInfo info{"join-parts", Stage::Shape, "Join objects",
                                   "Make one object of several; materials stay apart."};
    static constexpr auto fields =
        describe(field<&JoinParts::parts>("parts", "Objects")
                     .leastIs("all of them")
                     .help("Names, with * for any letters, separated by commas. Empty is all of them."),
                 field<&JoinParts::name>("name", "Call it")
                     .leastIs("the first one's name")
                     .help("Empty keeps the first one's name."));

    Model apply(const Model& in, StepContext& context) const;
};

/// Takes out nodes that show nothing, with what is below kept in place.
struct RemoveWrappers {
    static constexpr StepInfo info{"remove-wrappers", Stage::Shape, "Remove empty nodes",
                                   "Take out empty and wrapping nodes; what is below stays in place."};
    static constexpr auto fields = describe();

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
