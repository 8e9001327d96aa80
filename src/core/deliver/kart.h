#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A kart for the console: one file kart.NAME.kcb (docs/formats/kart-file.md) with its mesh, pictures in
/// blocks, bones, and the clips that its slots play.
struct Kart {
    std::string called; ///< empty is the piece's name

    static constexpr DeliverableInfo info{"kart", "Kart",
                                          "One file with everything that the game loads of it."};
    static constexpr auto fields = describe(field<&Kart::called>("called", "Called")
                                                .help("The file is kart.NAME.kcb.")
                                                .leastIs("the piece's name"));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

} // namespace zl::deliver
