// What happens on the workbench when something else on it, or the project, changes.
#include "app/pages/workbench_page.h"

#include "app/qt_text.h"

#include "core/geometry/solids.h"

#include <QToolButton>

namespace zl::app {

using steps::Stage;

void WorkbenchPage::connectAll() {
    for (SideCard* card : std::initializer_list<SideCard*>{ruleCard_, measureCard_, selectionCard_})
        connect(card, &SideCard::stepAsked, this,
                [this](const std::string& step, const nlohmann::json& params) { addOffered(step, params); });
    connect(ruleCard_, &SideCard::closed, this, [this] {
        rule_.clear();
        view_->setHighlight({}, {});
    });
    connect(measureCard_, &SideCard::closed, this, [this] { view_->setTool(nullptr); });
    connect(selectionCard_, &SideCard::closed, selected_, &Selected::clear);
    connect(clippingCard_, &SideCard::closed, this, [this] { modes_["clipping"]->setChecked(false); });
    connect(sizesCard_, &SideCard::closed, this, [this] { modes_["sizes"]->setChecked(false); });
    connect(offer_, &PlanOffer::offered, this, [this] { modes_["sizes"]->setChecked(false); });
    connect(selectionCard_, &SelectionCard::keepAsked, this, &WorkbenchPage::keepSelection);
    connect(selectionCard_, &SelectionCard::paintAsked, this, [this](const std::string& kind) {
        setStage(Stage::Contact); // where it is seen
        contact_->paint(selected_->asSelection(), kind);
        selected_->clear();
    });
    connect(noticeCard_, &NoticeCard::goOnAsked, this, [this] {
        session_.resume();
        refresh();
    });
    connect(rail_, &StageRail::chosen, this, [this](Stage stage) {
        offer_->leave();
        setStage(stage);
    });
    connect(offer_, &PlanOffer::offered, this, [this] { setStage(stage_); });
    connect(offer_, &PlanOffer::previewed, this, &WorkbenchPage::showPreview);
    connect(offer_, &PlanOffer::ended, this, &WorkbenchPage::endOffer);
    connect(plan_, &PlanPanel::pointsAsked, this,
            [this](bool asked) { view_->setTool(asked ? &measuring_ : nullptr); });
    connect(plan_, &PlanPanel::answered, this, [this] { view_->setTool(nullptr); });
    connect(strip_, &FitStrip::chosen, this, &WorkbenchPage::chooseRule);
    connect(scenes_, &WorkbenchScenes::stopped, this, [this] {
        noticeCard_->show(tr("Stopped"), tr("The view is not drawn anew."), tr("Draw it"));
        if (!scenes_->isReady()) view_->setMessage(tr("Drawing was stopped."));
    });
    connect(&session_, &Session::crossingChanged, this,
            [this](const QString& piece, const QString& platform) {
                if (piece == piece_ && platform == platform_) refresh();
            });
    connect(&session_, &Session::projectChanged, this, [this] {
        if (!piece_.isEmpty() && session_.project().piece(piece_.toStdString())) setStage(stage_);
    });
    auto& partsButton = rail_->partsButton();
    connect(&partsButton, &QAbstractButton::toggled, this, [this](bool open) {
        parts_->setVisible(open);
        showParts();
        if (open) view_->frameAll(); // it takes the view's left
    });
    connect(parts_, &PartsDrawer::closeAsked, this, [&partsButton] { partsButton.setChecked(false); });
    connect(parts_, &PartsDrawer::hiddenChanged, this, [this] { scenes_->setHidden(parts_->hidden()); });
    connect(steps_, &StepsPanel::selectionChanged, this, &WorkbenchPage::refreshHandles);
    connect(deliver_, &DeliverPanel::ruleAsked, this, &WorkbenchPage::chooseRule);
    connect(deliver_, &DeliverPanel::built, this, &WorkbenchPage::refreshMarks);
    connect(hands_, &WorkbenchHands::previewEnded, scenes_, &WorkbenchScenes::refreshFront);
    connect(scenes_, &WorkbenchScenes::frontShown, this, &WorkbenchPage::refreshHandles);
    connect(map_, &MapMode::turned, this, [this](bool on) {
        modes_["map"]->setChecked(on);
        view_->setVisible(!on);
    });
    connect(scenes_, &WorkbenchScenes::shapesShown, this, [this] {
        showParts();
        map_->refresh(view_->restScene());
        if (const auto scene = view_->restScene()) clips_->show(scene->model);
        player_->refresh();
        way_->refresh();
        curves_->refresh();
        offerBones();
    });
    view_->bones().picked = [this](const QString& bone) { chooseBone(bone); };
    connect(&parts_->bones(), &BonesList::picked, this, [this](const QString& bone) {
        modes_["bones"]->setChecked(true);
        chooseBone(bone);
    });
    connect(clips_, &ClipBar::curveAsked, this, [this] {
        if (const QString bone = clips_->whose(); !bone.isEmpty())
            view_->bones().chosen = bone, parts_->bones().choose(bone);
        showWeights();
    });
    connect(clips_, &ClipBar::trimAsked, this, [this](const QString& clip, double from, double to) {
        addOffered("trim-clips", {{"of", {clip.toStdString()}}, {"from", from}, {"to", to}});
    });
    connect(steps_, &StepsPanel::clipAsked, this, [this](const QString& clip) {
        clips_->choose(clip);
        clips_->play(true);
    });
    connect(hands_, &WorkbenchHands::clipAsked, this, [this](const QString& name) {
        if (const auto scene = view_->restScene()) clips_->show(scene->model);
        clips_->choose(name);
    });
    connect(view_, &ModelView::sceneChanged, clips_, [this] {
        const auto rest = view_->restScene();
        clips_->follow(rest && rest->playing);
    });
    hands_->moment = [this] { return WorkbenchHands::Moment{clips_->clip(), clips_->seconds()}; };
    connect(clips_, &ClipBar::momentChanged, this, [this] {
        player_->show(clips_->clip(), clips_->seconds(), clips_->isPlaying());
        way_->show(clips_->clip());
        if (!clips_->isPlaying()) hands_->refresh(stage_);
    });
    connect(faceCard_, &FaceCard::faceChanged, this, [this] { player_->wear(faceCard_->face()); });
    connect(faceCard_, &SideCard::closed, this, [this] { modes_["face"]->setChecked(false); });
    connect(view_, &ModelView::toolChanged, this,
            [this] { pickingCard_->setVisible(view_->tool() == faces_.get()); });
    connect(blocksCard_, &BlocksCard::placeAsked, this, [this](const glm::dvec3& place) {
        const auto sheet = session_.sheet(platform_.toStdString());
        const double half = sheet ? sheet->blocks.edge / 2 : 0.5;
        const Mesh box = geometry::boxMesh(glm::vec3(place - half), glm::vec3(place + half));
        std::vector<glm::vec3> corners;
        for (const std::uint32_t v : box.indices) corners.push_back(box.positions[v]);
        view_->setSeenThrough(std::move(corners));
        view_->frame(place, 12 * half);
    });
    connect(pickingCard_, &SideCard::closed, this, [this] { view_->setTool(nullptr); });
    connect(&measuring_, &MeasureTool::measuredChanged, this, &WorkbenchPage::showMeasured);
    connect(selected_, &Selected::changed, this, &WorkbenchPage::showSelection);
    connect(&session_, &Session::pieceRenamed, this, [this](const QString& from, const QString& to) {
        if (piece_ != from) return;
        offer_->leave();
        piece_ = to;
        scenes_->rename(to);
        sizes_->open(piece_, platform_);
        surface_->rename(to);
        map_->rename(to);
        hands_->open(piece_, platform_);
    });
    connect(materials_, &MaterialsPanel::bindAsked, this, [this] {
        const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
        bind_->open(piece_, state);
        setStage(stage_);
    });
    connect(bind_, &BindPanel::closed, this, [this] {
        bind_->hide();
        setStage(stage_);
    });
    connect(bind_, &BindPanel::bound, this, [this](const nlohmann::json& params, bool ofPiece) {
        bind_->hide();
        addOffered("set-pictures", params, ofPiece);
    });
    connect(view_, &ModelView::viewFailed, &session_, &Session::said);
}

} // namespace zl::app
