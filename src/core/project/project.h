#pragma once
#include "core/recipe/recipe.h"

#include <filesystem>
#include <optional>

namespace zl::project {

/// What the maker of a source allows.
enum class Permission { OwnWork, Allowed, AskFirst, NotAllowed };
std::string_view permissionId(Permission permission); ///< "own-work", "allowed", "ask-first", "not-allowed"
std::optional<Permission> permissionFrom(std::string_view id);
std::string_view permissionName(Permission permission); ///< "own work", "allowed", …

struct Source {
    std::filesystem::path path; ///< relative to the project's folder, where possible
    std::string author;
    std::string licence;
    Permission permission = Permission::AskFirst;
    std::string link{}; ///< where its author is found
    std::string size{}; ///< which size of the piece it is; those of one size stand side by side in one model
};

/// An object known from a game, to measure against; never delivered.
struct YardstickSource {
    std::string name;
    std::filesystem::path path; ///< relative to the project's folder, where possible
    std::string unit;           ///< id of its unit; empty takes what the file says or what is assumed
    std::string up;             ///< "y", "z" or empty
};

/// A piece on one platform: what is done there on top of the piece's own recipe.
struct Crossing {
    std::string platform;
    recipe::Recipe recipe;
    /// Parameters of the platform's deliverable that are not its usual ones.
    nlohmann::ordered_json deliver = nlohmann::ordered_json::object();
};

/// A selection that several steps of a piece use by its name.
struct KeptSelection {
    std::string name;
    selection::Selection selection;
};

struct Piece {
    std::string name;
    std::vector<Source> sources;
    recipe::Recipe recipe; ///< runs before each crossing's
    std::vector<Crossing> crossings;
    std::vector<KeptSelection> selections;

    /// The sizes that it comes in, in the order of its sources; the first is the one that the others are held
    /// against. Never empty: one without a name for a piece that comes in one size, or has no source yet.
    std::vector<std::string> sizes() const;
    const Crossing* on(std::string_view platform) const;
    Crossing* on(std::string_view platform);
    /// The crossing with `platform`, made empty when there is none yet.
    Crossing& setUpOn(const std::string& platform);
};

struct Project {
    std::string name = "New project";
    std::filesystem::path file;         ///< empty until it was saved
    std::vector<std::string> platforms; ///< columns of the Loom, in order
    std::vector<Piece> pieces;
    std::vector<YardstickSource> yardsticks;

    std::filesystem::path folder() const { return file.parent_path(); }
    const Piece* piece(std::string_view name) const;
    Piece* piece(std::string_view name);
    /// A name for a new piece that no other piece has, made from `wanted`.
    std::string freeName(const std::string& wanted) const;
};

/// The recipe that a piece runs on a platform: its own, then the crossing's.
recipe::Recipe recipeFor(const Piece& piece, std::string_view platform);
/// Parameters of the platform's deliverable that are not its usual ones; an empty object where there are
/// none.
nlohmann::json deliveryFor(const Piece& piece, std::string_view platform);

nlohmann::ordered_json toJson(const Project& project);
/// Throws Error naming the place for what is wrong, and for files of a newer version.
Project fromJson(const nlohmann::json& json, const std::filesystem::path& file);
Project load(const std::filesystem::path& file);
/// The old file is whole until the new one is, and stays as the backup.
void save(const Project& project);

/// "NAME.zestloom.before" beside the project: the version before the last save.
std::filesystem::path backupPath(const std::filesystem::path& file);

/// "Tide bell by Mira Quill, CC BY 4.0; …": one part a source, alike ones once. A source that is not cleared
/// says so.
std::string creditOf(const Piece& piece);
/// The same for what is delivered for a platform: also those are named whose pieces it only takes in, unless
/// they are the project's own work.
std::string creditOf(const Project& project, const Piece& piece, std::string_view platform);
/// Why publishing needs a second thought; empty when every source is own work or allowed.
std::vector<std::string> permissionWarnings(const Piece& piece);

} // namespace zl::project
