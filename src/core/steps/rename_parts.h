#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives objects and materials new names by a pattern, or makes every name one that the platform can read.
/// Names that would be used twice get a number. The notes list old → new, which serves as the preview.
struct RenameParts {
    enum class What { Both, Objects, Materials };

    What what = What::Both;
    std::string find = "*";
    std::string become = "{1}";
    bool legal = true;

    static constexpr StepInfo info{
        "rename-parts", Stage::Shape, "Rename",
        "Rename objects and materials by a pattern, or make names readable there."};
    static constexpr Choice whats[] = {
        {"both", "objects and materials"}, {"objects", "objects"}, {"materials", "materials"}};
    static constexpr auto fields = describe(
        field<&RenameParts::what>("what", "Rename").oneOf(whats).help("Which names are looked at."),
        field<&RenameParts::find>("find", "Names like").help("* stands for any letters, ? for one."),
        field<&RenameParts::become>("become", "Become")
            .help("{1} is what the first * stood for, {n} a number, {name} the old name."),
        field<&RenameParts::legal>("legal", "Lower case, a–z 0–9 _ only")
            .help("Other characters become _, with 31 of them at most or as few as the platform takes, and "
                  "no name is used twice."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
