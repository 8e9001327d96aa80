#pragma once
#include "core/base/units.h"

#include <filesystem>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace zl::platform {

enum class Severity { Must, Should };

/// One rule as a sheet states it. `check` names the kind of rule (platform/rules), `limits` are its numbers
/// in the sheet's own words and units ("most", "least", …).
struct RuleSpec {
    std::string id;
    std::string check;
    std::string label; ///< short, for the gauge
    Severity severity = Severity::Must;
    std::map<std::string, double> limits;
    std::string message;            ///< why the platform wants it, one sentence
    std::vector<std::string> mends; ///< ids of steps that can make it hold, best first

    /// The limit called `name`, or `fallback` when the sheet does not state it.
    double limit(const std::string& name, double fallback) const;
};

/// Everything the program knows about one platform, read from one TOML file.
struct Sheet {
    std::string id;
    std::string name;
    std::string kind;
    std::string about;
    std::string unitName; ///< how lengths are shown there, e.g. "u"
    double metresPerUnit = 1.0;
    Up up = Up::Y;
    std::string front = "+Z";
    double figureHeight = 1.0; ///< of a standing figure, in the platform's units
    std::vector<RuleSpec> rules;
    std::string deliverable; ///< id of what is written for it; empty when nothing is yet
    std::vector<std::string> finishes;
    std::string standIn; ///< id of the stand-in that tries it; empty when there is none
    std::filesystem::path file;

    double figureMetres() const { return figureHeight * metresPerUnit; }
    const RuleSpec* rule(std::string_view id) const;
    /// "1.41 u": a length in metres, shown in the platform's unit.
    std::string showLength(double metres) const;
};

/// Parses one sheet. Throws Error with file, line and what was expected.
Sheet readSheet(const std::filesystem::path& file);

/// The sheets that ship, then those in the user's data folder, then those in `projectFolder/platforms`;
/// a later one replaces an earlier one of the same id. A sheet that cannot be read is left out and its
/// error put into `problems`.
std::vector<std::shared_ptr<const Sheet>> loadSheets(const std::filesystem::path& projectFolder = {},
                                                     std::vector<std::string>* problems = nullptr);

/// The sheet called `id` among `sheets`; throws Error listing those there are.
std::shared_ptr<const Sheet> sheetNamed(const std::vector<std::shared_ptr<const Sheet>>& sheets,
                                        std::string_view id);

} // namespace zl::platform
