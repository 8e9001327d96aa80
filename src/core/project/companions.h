#pragma once
#include "core/platform/sheet.h"
#include "core/project/source_cache.h"

#include <functional>
#include <map>
#include <memory>

namespace zl::project {

/// What a piece's steps may take in on a platform: other pieces as they come out there, yardsticks,
/// files, pictures, and the selections that the piece keeps. Each is worked out once, when first asked for.
/// Pieces that come in sizes are taken in the one that is being worked out, where they have it.
/// All that is given must outlive it; not for several threads at once.
class Companions final : public steps::Surroundings {
public:
    Companions(const Project& project, const Piece& piece, const platform::Sheet& sheet, SourceCache& sources,
               recipe::EvaluationCache* cache, const Progress& progress = {}, const std::string& size = {});
    ~Companions() override;

    steps::Companion companion(const fields::ModelRef& ref) const override;
    Hash pictureKey(const std::string& file) const override;
    std::shared_ptr<const Image> picture(const std::string& file) const override;
    const selection::Selection* keptSelection(std::string_view name) const override;
    steps::Provenance provenance() const override;
    std::map<int, std::string> numbersOfOthers() const override;
    /// The files behind the piece's own model and behind what was taken in so far.
    std::vector<std::filesystem::path> filesWith(const Model& own) const;

    /// The size that is being worked out; empty for the first.
    const std::string& size() const;

private:
    struct Shared;
    Companions(std::shared_ptr<Shared> shared, const Piece& piece);
    steps::Companion workedOut(const fields::ModelRef& ref) const;
    steps::Companion ofPiece(const std::string& name) const;

    std::shared_ptr<Shared> shared_; ///< with those of the pieces that are taken in
    const Piece& piece_;
};

/// Other models and pictures that the piece's recipe on a platform names, and in turn those that these name:
/// each once. Pieces that are not there are left out.
struct NamedInputs {
    std::vector<const Piece*> pieces;
    std::vector<const YardstickSource*> yardsticks;
    std::vector<std::filesystem::path> files; ///< whole paths
};
NamedInputs namedInputs(const Project& project, const Piece& piece, std::string_view platform);

/// Replaces every path that the project holds, also those in recipes, by what `moved` makes of it.
void movePaths(Project& project,
               const std::function<std::filesystem::path(const std::filesystem::path&)>& moved);
/// The same for one piece.
void movePaths(Piece& piece, const std::function<std::filesystem::path(const std::filesystem::path&)>& moved);

/// Gives a piece another name, also wherever a recipe names it. Throws Error when the name is empty or taken.
void renamePiece(Project& project, const std::string& from, const std::string& to);
/// The same for a yardstick.
void renameYardstick(Project& project, const std::string& from, const std::string& to);

} // namespace zl::project
