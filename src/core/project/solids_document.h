#pragma once
#include "core/project/document.h"
#include "core/solids/scene_model.h"

#include <optional>

namespace zl::project {

/// A scene of solids that is made and edited here, as a source of a piece.
class SolidsDocument final : public Document {
public:
    solids::Scene scene;

    nlohmann::ordered_json toJson() const override;
    Model model(const std::filesystem::path& folder, const Progress& progress) const override;
    std::unique_ptr<Document> copy() const override { return std::make_unique<SolidsDocument>(*this); }
    static std::unique_ptr<Document> read(const nlohmann::json& content);
};

/// The pictures that a scene names, from the folder that it lies in; what cannot be read, with the reason.
struct PicturesBeside {
    solids::Pictures pictures;
    std::vector<std::filesystem::path> files;
    std::vector<std::string> warnings;
};
PicturesBeside picturesBeside(const solids::Scene& scene, const std::filesystem::path& folder,
                              const Progress& progress = {});

inline constexpr DocumentKind solidsKind{"solids", "Solids", "solids",
                                         [] { return std::unique_ptr<Document>(new SolidsDocument); },
                                         SolidsDocument::read};

/// Parts of a scene as they are to be, by their numbers; nothing where one is to go.
struct SceneParts {
    std::map<solids::Number, std::optional<solids::Solid>> solids;
    std::map<solids::Number, std::optional<solids::Group>> groups;
    std::map<solids::Number, std::optional<solids::Light>> lights;
    std::optional<int> sides; ///< of the whole scene, where it is to change

    bool empty() const { return solids.empty() && groups.empty() && lights.empty() && !sides; }
    /// What makes `before` into `after`.
    static SceneParts between(const solids::Scene& before, const solids::Scene& after);
};

/// Changes parts of a scene. Throws Error as demandScene() does for what would come of it.
class SolidsChange final : public DocumentChange {
public:
    explicit SolidsChange(SceneParts wanted) : wanted_(std::move(wanted)) {}
    void make(Document& document) override;
    void takeBack(Document& document) override;

private:
    void swap(solids::Scene& scene);
    SceneParts wanted_; ///< and after make() what was there before
};

} // namespace zl::project
