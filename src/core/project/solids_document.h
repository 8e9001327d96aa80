#pragma once
#include "core/project/document.h"
#include "core/solids/scene.h"

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

inline constexpr DocumentKind solidsKind{"solids", "Solids", "solids",
                                         [] { return std::unique_ptr<Document>(new SolidsDocument); },
                                         SolidsDocument::read};

/// Parts of a scene as they are to be, by their numbers; nothing where one is to go.
struct SceneParts {
    std::map<solids::Number, std::optional<solids::Solid>> solids;
    std::map<solids::Number, std::optional<solids::Group>> groups;
    std::map<solids::Number, std::optional<solids::Light>> lights;

    bool empty() const { return solids.empty() && groups.empty() && lights.empty(); }
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
