#pragma once
#include "core/base/progress.h"
#include "core/platform/sheet.h"

namespace zl::platform {
class SheetText;
}

namespace zl::learn {

/// Keeps in an answer what delivered files are like: the most of each number, and the words of what is no
/// number. Throws Error when the folder cannot be read, Cancelled.
void noteTraits(platform::GameAnswer& answer, const std::filesystem::path& delivered,
                const Progress& progress = {});

/// Something in which refused files are unlike all that the game took.
struct Difference {
    std::string id;                          ///< of the property
    std::string label;                       ///< "Corners of a mesh"
    std::string said;                        ///< "48 000 corners; what the game took has 120 to 16 000"
    double tells = 0;                        ///< how much it says; larger says more
    std::optional<platform::RuleSpec> limit; ///< between what was taken and what was refused
    std::string confidence;                  ///< of the limit, in words
};

/// Holds a refused answer against what the sheet knows was taken: its evidence and the accepted answers. The
/// most telling first: numbers by how many times they lie beyond what was taken, then words nobody had.
std::vector<Difference> differences(const platform::GameAnswer& refused, const platform::Sheet& sheet);

/// Whether anything is known of what the game took.
bool knowsAccepted(const platform::Sheet& sheet);

/// Puts a limit into a sheet's text: in place of the one of its kind that the sheet has, else as a new rule.
/// The id of the rule that says it now.
std::string putLimit(platform::SheetText& text, const platform::Sheet& sheet, platform::RuleSpec limit);

} // namespace zl::learn
