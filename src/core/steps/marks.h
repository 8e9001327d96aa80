#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives the holder the marks that the platform reads, each in its place and spelt just so. What the file
/// brings and the platform would not read is put right, or goes.
struct Marks {
    enum class Brought { Mended, Gone };
    struct Wanted {
        std::string mark;

        static std::vector<std::string> known(const platform::Sheet& sheet);
        static constexpr auto fields = describe(field<&Wanted::mark>("mark", "Mark").offeredBySheet(known));
    };

    std::vector<Wanted> wanted;
    Brought brought = Brought::Mended;

    static constexpr StepInfo info{"marks", Stage::Contact, "Marks",
                                   "What the game is to know of it, each in its place and spelt exactly."};
    static constexpr Choice ways[] = {{"mended", "put right"}, {"gone", "left out"}};
    static constexpr auto fields =
        describe(field<&Marks::wanted>("wanted", "It has").help("Chosen from those that the platform reads."),
                 field<&Marks::brought>("brought", "What the file brings")
                     .oneOf(ways)
                     .help("Marks of another spelling or place are taken for what they mean, or go."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
