#pragma once
#include "app/pages/cards.h"

#include "core/solids/scene.h"

#include <nlohmann/json.hpp>

#include <set>

class QTreeWidget;

namespace zl::app {

/// A scene of solids beside the view: its groups as a tree, and what is chosen by its numbers. Several that
/// are chosen are edited together.
class SolidsCard : public SideCard {
    Q_OBJECT
public:
    explicit SolidsCard(QWidget* parent = nullptr);
    /// Hidden without a scene. Built anew only where something that it shows has changed.
    void show(const solids::Scene* scene, const std::set<solids::Number>& chosen, const SheetPointer& sheet);

Q_SIGNALS:
    void chose(const std::set<solids::Number>& numbers);
    void renamed(solids::Number number, const QString& name);
    /// A field of the form "solid", "look" or "light" was given a value; of a look, for `face` or −1
    /// for all.
    void edited(const QString& form, const QString& field, const nlohmann::json& value, int face);

private:
    void buildTree(const solids::Scene& scene);
    void choose(const std::set<solids::Number>& numbers);
    void buildForms();

    QTreeWidget* tree_;
    QWidget* forms_ = nullptr;
    solids::Scene scene_;
    std::set<solids::Number> chosen_;
    SheetPointer sheet_;
    int face_ = -1;
    bool shown_ = false;
};

} // namespace zl::app
