#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// A piece as C99 for a small console (docs/formats/console-piece.md): NAME_model.h with segments, batches
/// of at most 16 corners, bones and keys; NAME_pictures.h with all pictures in one; NAME_names.h with what
/// the game calls them by, so that a name that changes is an error where the game is compiled; and
/// NAME_example.c that plays clips by the pad's buttons.
struct ConsoleHeaders {
    std::string called; ///< empty is the piece's name

    static constexpr DeliverableInfo info{"console-headers", "Headers for the console",
                                          "Segments, pictures and clips as C headers, with an example."};
    static constexpr auto fields = describe(field<&ConsoleHeaders::called>("called", "Called")
                                                .help("What every name in the headers begins with.")
                                                .leastIs("the piece's name"));

    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const;
};

/// A name as C takes it: small letters, digits and '_', not beginning with a digit; never empty,
/// and no longer than compilers tell apart with what comes beside it.
std::string identifierFrom(std::string_view name);

} // namespace zl::deliver
