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
    /// `pictures` are the files that faces can show, beside those that the scene names.
    void show(const solids::Scene* scene, const std::set<solids::Number>& chosen, const SheetPointer& sheet,
              const QStringList& pictures = {});

Q_SIGNALS:
    void chose(const std::set<solids::Number>& numbers);
    void renamed(solids::Number number, const QString& name);
    /// A field of the form "solid", "look", "picture", "light" or "scene" was given a value; of how faces
    /// look, for `face` or −1 for all.
    void edited(const QString& form, const QString& field, const nlohmann::json& value, int face);
    /// A face is to show this file, or none.
    void pictured(const QString& picture, int face);
    /// A face is to show a file that is yet to be chosen.
    void pictureSought(int face);

private:
    void buildTree(const solids::Scene& scene);
    void choose(const std::set<solids::Number>& numbers);
    void buildForms();
    void fillForms();
    QWidget* makeFaces();
    QWidget* makePictures(const solids::Look& look);

    QTreeWidget* tree_;
    QWidget* forms_ = nullptr;
    solids::Scene scene_;
    std::set<solids::Number> chosen_;
    SheetPointer sheet_;
    QStringList pictures_;
    int face_ = -1;
    bool shown_ = false;
};

} // namespace zl::app
