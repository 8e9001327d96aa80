#pragma once
#include "app/blocks/blocks_card.h"
#include "app/blocks/blocks_mode.h"
#include "app/solids/parts_to_solids.h"
#include "app/solids/solids_mode.h"
#include "app/map/map_mode.h"
#include "app/pages/cards.h"
#include "app/pages/clip_bar.h"
#include "app/pages/clip_player.h"
#include "app/pages/clip_curves.h"
#include "app/pages/clip_way.h"
#include "app/pages/clipping_mode.h"
#include "app/pages/contact_mode.h"
#include "app/pages/deliver_panel.h"
#include "app/pages/face_card.h"
#include "app/pages/gather_panel.h"
#include "app/pages/looked_first.h"
#include "app/pages/parts_drawer.h"
#include "app/pages/picking_card.h"
#include "app/pages/plan_offer.h"
#include "app/pages/sizes_mode.h"
#include "app/pages/steps_panel.h"
#include "app/pages/workbench_hands.h"
#include "app/pages/workbench_scenes.h"
#include "app/surface/bind_panel.h"
#include "app/surface/surface_mode.h"
#include "app/view/model_view.h"
#include "app/view/tools/faces_tool.h"
#include "app/view/tools/measure_tool.h"
#include "app/widgets/fit_strip.h"
#include "app/widgets/stage_rail.h"

class QLabel;
class QToolButton;

namespace zl::app {

class ChoiceBox;

/// One piece on one platform: stages on the left, the view, the stage's panel, and every limit below.
class WorkbenchPage : public QWidget {
    Q_OBJECT
public:
    WorkbenchPage(Session& session, QWidget* parent = nullptr);

    void open(const QString& piece, const QString& platform);
    const QString& piece() const { return piece_; }
    const QString& platform() const { return platform_; }
    void setStage(steps::Stage stage);
    void addStep(const std::string& step);
    /// Plans in the background and shows the plan beside the piece, with its result in the view; adds what
    /// stays ticked as one undo step.
    void suggest();
    bool isOffering() const { return offer_->isOpen(); }
    DeliverPanel& deliver() { return *deliver_; }
    ModelView& view() { return *view_; }
    SurfaceMode& surface() { return *surface_; }
    MapView& map() { return *mapView_; }
    Selected& selected() { return *selected_; }
    MeasureTool& measuring() { return measuring_; }
    ProbeTool& probing() { return contact_->probing(); }
    ClipBar& clips() { return *clips_; }
    const ClippingMode& clipping() const { return *clipping_; }
    /// Nothing is being worked out and the view is drawn in full.
    bool isSettled() const;
    /// A button above the view by its name ("solid", "wire", "pictures", …), "parts", "material-" and a
    /// name, or "slide-", a slider's name and its percent.
    void showMode(const QString& mode, bool on);
    void chooseRule(const QString& rule);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;

private:
    void addModes();
    QWidget* makeSide();
    void connectAll();
    void refresh();
    void showResult(const CrossingState& state);
    void showPreview(const PlanPreview& preview);
    void endOffer();
    void refreshMarks();
    void refreshHandles();
    void showContact();
    void showMeasured();
    void showSelection();
    void showParts();
    void keepSelection(const QString& name);
    /// The levels of detail to look at, where there are several.
    void offerLevels(const CrossingState& state);
    void showLevel(int level);
    void followDistance();
    /// Weights of the bone that is chosen as colours, where they are asked for.
    void showWeights();
    void showFace(bool on);
    /// In the view, in the list of parts and on the clip bar.
    void chooseBone(const QString& bone);
    /// The switch for bones, where clips are worked on and there are such.
    void offerBones();
    void addOffered(const std::string& step, const nlohmann::json& params, bool ofPiece = false);
    QToolButton* modeButton(const QString& name, const QString& text, const QString& tip, bool on,
                            const std::function<void(bool)>& set);

    Session& session_;
    QString piece_, platform_;
    steps::Stage stage_ = steps::Stage::Gather;
    StageRail* rail_;
    Selected* selected_;
    MeasureTool measuring_;
    std::unique_ptr<FacesTool> faces_;
    ModelView* view_;
    WorkbenchHands* hands_;
    LookedFirst* lookedFirst_;
    PartsDrawer* parts_;
    ClipBar* clips_;
    ClipWay* way_;
    ClipCurves* curves_;
    ClipPlayer* player_;
    FaceCard* faceCard_;
    WorkbenchScenes* scenes_;
    FitStrip* strip_;
    QLabel* title_;
    GatherPanel* gather_;
    StepsPanel* steps_;
    DeliverPanel* deliver_;
    PlanPanel* plan_;
    PlanOffer* offer_;
    NoticeCard* noticeCard_;
    RuleCard* ruleCard_;
    MeasureCard* measureCard_;
    PickingCard* pickingCard_;
    SelectionCard* selectionCard_;
    ClippingCard* clippingCard_;
    ClippingMode* clipping_;
    SizesCard* sizesCard_;
    SizesBar* sizesBar_;
    SizesMode* sizes_;
    SurfaceView* surfaceView_;
    MapView* mapView_;
    MapMode* map_;
    SurfaceSwitch* surfaceSwitch_;
    ContactMode* contact_;
    BlocksMode* blocks_;
    BlocksCard* blocksCard_;
    SolidsMode* solids_;
    PartsToSolids* partsToSolids_;
    SolidsCard* solidsCard_;
    MaterialsPanel* materials_;
    LayoutCard* layoutCard_;
    BindPanel* bind_;
    SurfaceMode* surface_;
    std::map<QString, QToolButton*> modes_;
    ChoiceBox* level_;
    std::vector<double> levelFrom_; ///< metres from which each level does, and the coarser ones too
    int levelSeen_ = -1;            ///< by the camera's distance; below 0 where it does not choose
    QString rule_;
};

} // namespace zl::app
