#pragma once
#include "app/pages/workbench_scenes.h"
#include "app/solids/scene_pictures.h"
#include "app/solids/solids_card.h"
#include "app/solids/solids_tool.h"

#include "core/project/solids_document.h"

class QToolButton;

namespace zl::app {

class ChoiceBox;
class FlowRow;

/// A scene of solids edited in the workbench's view, where the piece is one of a document: made, chosen,
/// moved, copied, grouped. While it is in hand the view shows the scene itself, plain and at once; put down,
/// what the recipe makes of it.
class SolidsMode : public QObject {
    Q_OBJECT
public:
    using MakeSwitch = std::function<QToolButton*(const QString& name, const QString& text,
                                                  const QString& tip, bool on, std::function<void(bool)>)>;
    SolidsMode(Session& session, ModelView& view, WorkbenchScenes& scenes, FlowRow& row, SolidsCard& card,
               const MakeSwitch& make, QObject* parent);

    /// The crossing was worked out anew, or another stage shown. `here`: scenes are worked on now.
    void refresh(const QString& piece, const QString& platform, bool here);
    bool isInHand() const { return view_.tool() == &tool_; }

private:
    /// The scene that is edited; null where the piece is none.
    std::shared_ptr<const project::SolidsDocument> document() const;
    void showAll();
    void showScene();
    /// Changes the scene as one step of undo; `mergeKey` as Session::edit() has it.
    void edit(const QString& what, const std::function<void(solids::Scene&)>& change,
              const QString& mergeKey = {});
    void add(solids::Kind kind);
    void addLight(solids::LightKind kind);
    void copy(), remove(), group(), ungroup();
    void moveBy(const QString& what, const glm::dvec3& by, const QString& mergeKey = {});
    void take(const QString& form, const QString& field, const nlohmann::json& value, int face);
    bool keyed(const QKeyEvent& event);
    /// Changes what the chosen solids look like, on one face or (−1) on all.
    void eachLook(solids::Scene& scene, int face, const std::function<void(solids::Look&)>& change);
    void showPicture(const QString& picture, int face);
    void seekPicture(int face);

    Session& session_;
    ModelView& view_;
    WorkbenchScenes& scenes_;
    SolidsCard& card_;
    SolidsTool tool_;
    ScenePictures pictures_;
    QString piece_, platform_;
    std::filesystem::path file_; ///< of the document; empty where there is none
    std::shared_ptr<const project::SolidsDocument> held_, shownOf_;
    std::optional<solids::Number> shownGroup_; ///< that is seen alone
    bool alone_ = false;
    bool comes_ = false; ///< the view shows what a step has so far
    QToolButton *edits_, *aloneSwitch_;
    ChoiceBox *kinds_, *snaps_;
    std::vector<QWidget*> always_, forChosen_;
};

} // namespace zl::app
