#pragma once
#include "core/learn/file_facts.h"
#include "core/platform/sheet.h"

namespace zl::learn {

/// What one file says of a property.
struct Seen {
    std::size_t file = 0; ///< in Evidence::files
    double value = 0;
    std::string text; ///< of a property that is no number
};

/// What of a sheet a property speaks for.
struct Offer {
    std::optional<platform::RuleSpec> rule;
    std::map<std::string, std::string> keys;   ///< "unit.metres" to a value as TOML has it
    std::string sections;                      ///< in TOML, as they stand in a sheet
    std::string confidence;                    ///< in words: "12 of 12 files have at most 4 096 corners"
    bool isSure = false;                       ///< worth taking without a look
    std::map<std::string, std::string> asks{}; ///< questions that the sections need, by name: each a section
};

/// One thing that the examples have in common, or not, with what each file says of it.
struct Property {
    std::string id, label;
    std::string unit; ///< behind its numbers: "triangles"; empty for what is no number
    std::vector<Seen> accepted{}, refused{};
    double least = 0, middle = 0, most = 0; ///< of the accepted
    std::vector<std::size_t> outliers{};    ///< files that are unlike the others
    std::optional<Offer> offered{};

    bool isNumber() const { return !unit.empty(); }
};

/// Sorts what was seen by value, and works out least, middle, most, and outliers: numbers further from the
/// middle half than three times its width (Tukey, 1977), on a scale of ratios.
void summarise(Property& property);

} // namespace zl::learn
