#pragma once
#include "core/base/hash.h"
#include "core/base/units.h"
#include "core/platform/role_endings.h"
#include "core/platform/sheet_blocks.h"
#include "core/platform/sheet_contact.h"
#include "core/platform/sheet_cost.h"
#include "core/platform/sheet_evidence.h"
#include "core/platform/sheet_files.h"
#include "core/platform/sheet_pictures.h"
#include "core/platform/sheet_world.h"
#include "core/platform/vocabulary.h"

#include <filesystem>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace zl::platform {

enum class Severity { Must, Should };

/// What sort of model a rule is about.
enum class Of { All, Meshes, Solids };

/// One rule as a sheet states it. `check` names the kind of rule (platform/rules), `limits` are its numbers
/// in the sheet's own words and units ("most", "least", …).
struct RuleSpec {
    std::string id;
    std::string check;
    std::string label; ///< short, for the gauge
    Severity severity = Severity::Must;
    std::map<std::string, double> limits;
    std::map<std::string, std::string> texts; ///< limits that are words, such as a pattern for names
    std::string message;                      ///< why the platform wants it, one sentence
    std::vector<std::string> mends;           ///< ids of steps that can make it hold, best first
    Of of = Of::All;

    /// The limit called `name`, or `fallback` when the sheet does not state it.
    double limit(const std::string& name, double fallback) const;
};

/// One leg of the way a model takes to a platform: a format, how it is written, and what is known to go wrong
/// there beside what the format cannot hold anyway (ids of formats::Aspect).
struct Leg {
    std::string format;
    double metresPerUnit = 0; ///< 0: as the platform's files
    std::string up;           ///< "Y", "Z" or empty: as the platform's files
    std::vector<std::string> loses, changes;
    std::string note;
};

/// What a code in front of the names of a game's items means: "grown-a-" is "grown-up, build A".
struct Prefix {
    std::string code;
    std::string means;
};

/// What coarser copies are called on delivery, and whether each level is a file or all are nodes of one.
struct SheetLevels {
    enum class As { Files, Nodes };

    std::string name; ///< "{name}_lod{n}", {n} the level's number; empty: the platform takes none
    As as = As::Files;

    /// What level `level` of `whole` is called; as most platforms do where this one says nothing.
    std::string nameFor(const std::string& whole, int level) const;
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
    double figureHeight = 1.0;            ///< of a standing figure, in the platform's units
    std::vector<std::string> figureBones; ///< of the platform's own figures, where poses are made for them
    std::vector<RuleSpec> rules;
    std::string deliverable;        ///< id of what is written for it; empty when nothing is yet
    SheetFiles files;               ///< where the sheet itself says what is written
    std::vector<std::string> sizes; ///< that every piece must come in, alike corner for corner; mostly none
    double importerFactor = 1;      ///< what the platform's importer multiplies all lengths by
    std::vector<Leg> chain;         ///< the usual way there; empty when files are written straight away
    std::vector<Prefix> prefixes;   ///< of its items' code names
    RoleEndings endings;            ///< of its files' names, where they are its own
    SheetLevels levels;             ///< coarser copies, where it takes some
    SheetSurface surface;           ///< pictures and names of materials, where it wants its own
    std::vector<std::string> slots; ///< movements that it plays by name, in its order; mostly none
    contact::Touch touch;           ///< surfaces, marks and the engine, where it reads such
    SheetWorld world;               ///< where it is one
    SheetBlocks blocks;             ///< where it takes builds of them
    SheetCost cost;                 ///< what copies of a piece may take
    std::string standIn;            ///< id of the stand-in that tries it; empty when there is none
    std::vector<SheetEvidence> evidence; ///< how its limits are known
    std::vector<GameAnswer> answers;     ///< what the game itself said
    std::vector<LogPattern> log;         ///< lines of the game's log that are known
    std::string edition;                 ///< of the sheet, as its maker counts; may be empty
    std::string notes;                   ///< of people for people; may be empty
    std::filesystem::path file;

    /// How a rule is known; null where nothing says so.
    const SheetEvidence* evidenceOf(std::string_view rule) const;
    double figureMetres() const { return figureHeight * metresPerUnit; }
    /// Length in metres of one unit in the files written for it.
    double fileMetresPerUnit() const { return metresPerUnit * importerFactor; }
    /// "Written in metres; Lampwright 3 multiplies by 40": empty when the importer leaves lengths alone.
    std::string importerWords() const;
    /// The longest prefix that a code name begins with; null when none is known.
    const Prefix* prefixOf(std::string_view code) const;
    const RuleSpec* rule(std::string_view id) const;
    /// All rules of one kind ("triangles"), whatever the sheet calls them.
    std::vector<const RuleSpec*> rulesOf(std::string_view check) const;
    /// "1.41 u": a length in metres, shown in the platform's unit.
    std::string showLength(double metres) const;
    /// "1.41 u (35.3 mm)": in the platform's unit and one people know.
    std::string showBoth(double metres) const;
};

/// Changes when anything changes that the sheet says.
Hash hashOf(const Sheet& sheet);

/// The form of sheets that is read here; `made-for` in a sheet says which it needs.
inline constexpr int sheetVersion = 2;

/// Parses one sheet. Throws Error with file, line and what was expected; for a word that is not in `words`,
/// the nearest one that is.
Sheet readSheet(const std::filesystem::path& file, const Vocabulary& words = {});

/// The same for a sheet that is not on the disk yet; `file` is where it would be.
Sheet sheetFromText(const std::string& text, const std::filesystem::path& file, const Vocabulary& words = {});

/// The sheets that ship, then those in the user's data folder, then those in `projectFolder/platforms`;
/// a later one replaces an earlier one of the same id. A sheet that cannot be read is left out and its
/// error put into `problems`.
std::vector<std::shared_ptr<const Sheet>> loadSheets(const std::filesystem::path& projectFolder = {},
                                                     std::vector<std::string>* problems = nullptr,
                                                     const Vocabulary& words = {});

/// The sheet called `id` among `sheets`; throws Error listing those there are.
std::shared_ptr<const Sheet> sheetNamed(const std::vector<std::shared_ptr<const Sheet>>& sheets,
                                        std::string_view id);

} // namespace zl::platform
