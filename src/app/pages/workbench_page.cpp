#include "app/pages/workbench_page.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

using steps::Stage;

namespace {

/// The stage in which a rule is mended.
Stage stageOf(const platform::RuleResult& rule) {
    for (const std::string& mend : rule.mends)
        if (mend != "unit-and-up" || rule.mends.size() == 1) return steps::infoOf(mend).stage;
    return Stage::Shape;
}

} // namespace

WorkbenchPage::WorkbenchPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    outer->setSpacing(0);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    outer->addLayout(middle, 1);
    rail_ = new StageRail;
    middle->addWidget(rail_);
    selected_ = new Selected(this);
    faces_ = std::make_unique<FacesTool>(*selected_);
    view_ = new ModelView(*selected_);
    view_->setObjectName("modelView");
    scenes_ = new WorkbenchScenes(session_, *view_, this);
    parts_ = new PartsDrawer(*selected_);
    parts_->hide();
    middle->addWidget(parts_);
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    auto* sights = new QHBoxLayout;
    sights->setSpacing(1);
    surfaceView_ = new SurfaceView;
    sights->addWidget(view_, 1);
    sights->addWidget(surfaceView_, 1);
    mapView_ = new MapView;
    mapView_->setObjectName("mapView");
    sights->addWidget(mapView_, 1);
    map_ = new MapMode(session_, *mapView_, this);
    column->addLayout(sights, 1);
    clips_ = new ClipBar;
    column->addWidget(clips_);
    sizesBar_ = new SizesBar;
    column->addWidget(sizesBar_);
    middle->addLayout(column, 1);
    player_ = new ClipPlayer(session_, *view_, this);
    way_ = new ClipWay(session_, *view_, this);
    curves_ = new ClipCurves(session_, *view_, *clips_, this);
    addModes();
    middle->addWidget(makeSide());
    strip_ = new FitStrip;
    outer->addWidget(strip_);
    connectAll();
}

QWidget* WorkbenchPage::makeSide() {
    auto* side = new QWidget;
    side->setObjectName("sidePanel");
    side->setAttribute(Qt::WA_StyledBackground);
    side->setFixedWidth(328);
    auto* sideLayout = new QVBoxLayout(side);
    sideLayout->setContentsMargins(16, 14, 6, 6);
    title_ = headingLabel("");
    sideLayout->addWidget(title_);
    auto* inner = scrolled(side, sideLayout);
    inner->setContentsMargins(0, 0, 10, 8);
    inner->setSpacing(10);
    noticeCard_ = new NoticeCard;
    ruleCard_ = new RuleCard;
    measureCard_ = new MeasureCard;
    sizesCard_ = new SizesCard;
    pickingCard_ = new PickingCard(*view_, *selected_, *faces_);
    selectionCard_ = new SelectionCard;
    clippingCard_ = new ClippingCard;
    clipping_ = new ClippingMode(session_, *view_, *clippingCard_, this);
    for (SideCard* card : std::initializer_list<SideCard*>{
             noticeCard_, ruleCard_, measureCard_, clippingCard_, sizesCard_, pickingCard_, selectionCard_})
        inner->addWidget(card);
    inner->addWidget(solidsCard_);
    faceCard_ = new FaceCard;
    inner->addWidget(faceCard_);
    layoutCard_ = new LayoutCard;
    inner->addWidget(layoutCard_);
    materials_ = new MaterialsPanel;
    inner->addWidget(materials_);
    bind_ = new BindPanel(session_);
    inner->addWidget(bind_);
    surface_ = new SurfaceMode(
        session_, {*view_, *surfaceView_, *surfaceSwitch_, *materials_, *layoutCard_, *selected_}, this);
    gather_ = new GatherPanel(session_, side);
    steps_ = new StepsPanel(session_, *selected_, side);
    deliver_ = new DeliverPanel(session_, side);
    // Side by side and hidden in turn: a stack would be as tall as its tallest page and scroll into nothing.
    plan_ = new PlanPanel(side);
    for (QWidget* panel : std::initializer_list<QWidget*>{gather_, steps_, deliver_, plan_})
        inner->addWidget(panel, 1);
    blocksCard_ = new BlocksCard;
    inner->addWidget(blocksCard_);
    plan_->hide();
    offer_ = new PlanOffer(
        session_, *plan_,
        [this](const QString& piece, const QString& platform) {
            return piece == piece_ && platform == platform_ && isVisible();
        },
        this);
    hands_ = new WorkbenchHands(session_, *view_, *steps_, *offer_, this);
    sizes_ = new SizesMode(session_, *view_, *scenes_, *hands_, *sizesCard_, *sizesBar_, this);
    lookedFirst_ = new LookedFirst(session_, *view_, *steps_, this);
    return side;
}

void WorkbenchPage::open(const QString& piece, const QString& platform) {
    const bool other = piece != piece_ || platform != platform_;
    piece_ = piece;
    platform_ = platform;
    const auto sheet = session_.sheet(platform.toStdString());
    if (!sheet) return;
    if (other) {
        offer_->leave();
        scenes_->open(piece, platform);
        hands_->open(piece, platform);
        clipping_->open(platform);
        modes_["sizes"]->setChecked(false);
        level_->setCurrentIndex(-1);
        sizes_->open(piece, platform);
        surface_->open(piece, platform);
        map_->open(piece, platform);
        bind_->hide();
        rule_.clear();
        ruleCard_->hide();
        noticeCard_->hide();
        view_->setScenes(nullptr, nullptr, false);
        view_->setTool(nullptr);
        view_->setHighlight({}, {});
        selected_->clear();
        parts_->reset();
        clips_->leave();
        strip_->clear();
    }
    view_->setSheet(sheet);
    pickingCard_->setSheet(sheet);
    rail_->setShown(Stage::Deliver, !sheet->deliverable.empty());
    session_.prefer(piece.toStdString(), platform.toStdString());
    setStage(other ? Stage::Gather : stage_);
    refresh();
}

void WorkbenchPage::setStage(Stage stage) {
    const auto sheet = session_.sheet(platform_.toStdString());
    if (stage == Stage::Deliver && sheet && sheet->deliverable.empty()) stage = Stage::Contact;
    stage_ = stage;
    rail_->select(stage);
    const bool offering = offer_->isOpen();
    title_->setText(offering ? tr("Suggest a fit") : stageTitle(stage));
    if (stage == Stage::Gather) {
        gather_->show(piece_, platform_);
    } else if (stage == Stage::Deliver) {
        deliver_->show(piece_, platform_);
    } else {
        steps_->show(piece_, platform_, stage);
    }
    gather_->setVisible(!offering && stage == Stage::Gather);
    deliver_->setVisible(!offering && stage == Stage::Deliver);
    steps_->setVisible(!offering && stage != Stage::Gather && stage != Stage::Deliver);
    if (offering || stage != Stage::Surface) bind_->hide();
    const bool binding = !bind_->isHidden();
    materials_->setVisible(!offering && !binding && stage == Stage::Surface);
    if (binding) steps_->hide();
    surface_->setOn(!offering && stage == Stage::Surface);
    const bool maps = !offering && (stage == Stage::Place || stage == Stage::Deliver) && map_->isThere();
    modes_["map"]->setVisible(maps);
    if (!maps) map_->setOn(false);
    clips_->setLaneShown(stage == Stage::Motion);
    offerBones();
    if (!offering) refreshHandles();
    showMeasured();
}

void WorkbenchPage::addStep(const std::string& step) {
    offer_->leave();
    setStage(steps::infoOf(step).stage);
    steps_->add(step);
}

void WorkbenchPage::refresh() {
    offer_->leaveIfStale();
    if (offer_->isOpen()) return; // what the offer shows stays until it is taken or left
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    using Kind = CrossingState::Kind;
    const QString kept = state.hasResult() ? tr(" The last result stays in sight.") : QString();
    if (state.kind == Kind::Ready) {
        noticeCard_->hide();
        showResult(state);
    } else if (state.kind == Kind::Failed) {
        noticeCard_->show(tr("Cannot be worked out"), qs(state.problem) + kept, {});
        if (!state.hasResult()) view_->setMessage(qs(state.problem));
    } else if (state.kind == Kind::Stopped) {
        noticeCard_->show(tr("Stopped"), tr("Checking was stopped.") + kept, tr("Check again"));
        if (!scenes_->isReady()) view_->setMessage(tr("Checking was stopped."));
    } else if (!scenes_->isReady()) {
        view_->setMessage(tr("Reading and checking %1…").arg(piece_));
    }
    refreshMarks();
    setStage(stage_);
}

void WorkbenchPage::showResult(const CrossingState& state) {
    const Model& model = state.evaluation.model;
    strip_->show(state.report);
    view_->setMessage(triangleCount(model) == 0 ? tr("There are no triangles to show.")
                      : scenes_->isReady()      ? QString()
                                                : tr("Drawing %1…").arg(piece_));
    refreshHandles();
    scenes_->refresh();
    modes_["sizes"]->setVisible(!state.others.empty());
    offerLevels(state);
    modes_["yardstick"]->setVisible(!session_.project().yardsticks.empty());
    map_->refresh(view_->restScene());
    if (!rule_.isEmpty()) chooseRule(rule_);
}

void WorkbenchPage::refreshMarks() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    std::map<Stage, Mark> marks;
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return;
    for (const Stage stage : StageRail::stages())
        marks[stage] = state.kind == CrossingState::Kind::Ready ? Mark::None : Mark::Busy;
    if (state.kind == CrossingState::Kind::Failed)
        for (auto& [stage, mark] : marks) mark = stage == Stage::Gather ? Mark::Broken : Mark::None;
    if (state.kind == CrossingState::Kind::Stopped)
        for (auto& [stage, mark] : marks) mark = Mark::None;
    if (state.kind == CrossingState::Kind::Ready) {
        const bool cleared = project::permissionWarnings(*piece).empty();
        marks[Stage::Gather] = cleared && state.source.warnings.empty() ? Mark::Fits : Mark::Tight;
        for (const auto& entry : recipeFor(*piece, platform_.toStdString()))
            if (entry.on)
                marks[steps::infoOf(entry.step).stage] =
                    std::max(marks[steps::infoOf(entry.step).stage], Mark::Fits);
        for (const auto& rule : state.report.rules)
            marks[stageOf(rule)] = std::max(marks[stageOf(rule)], markOf(rule));
        for (const auto& outcome : state.evaluation.outcomes)
            if (!outcome.problem.empty()) marks[steps::infoOf(outcome.step).stage] = Mark::Broken;
        marks[Stage::Deliver] = deliver_->wasBuilt() ? Mark::Fits : Mark::None;
    }
    for (const auto& [stage, mark] : marks) rail_->setMark(stage, mark);
}

void WorkbenchPage::refreshHandles() {
    showContact();
    hands_->refresh(stage_);
    if (!offer_->isOpen()) lookedFirst_->refresh(piece_, platform_);
}

void WorkbenchPage::showContact() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const bool own = !offer_->isOpen() && !sizes_->isOn();
    if (const auto sheet = session_.sheet(platform_.toStdString());
        sheet && own && state.kind == CrossingState::Kind::Ready)
        contact_->showBodies(state.evaluation.model.colliders, sheet->figureMetres());
    contact_->refresh(piece_, platform_, own && stage_ == Stage::Contact);
    blocks_->refresh(piece_, platform_, own && stage_ == Stage::Shape);
    solids_->refresh(piece_, platform_,
                     own && (stage_ == Stage::Gather || stage_ == Stage::Shape || stage_ == Stage::Surface));
    partsToSolids_->refresh(piece_, platform_, own && stage_ == Stage::Shape);
    if (const auto sheet = session_.sheet(platform_.toStdString()); sheet && own && stage_ == Stage::Shape)
        blocksCard_->show(state, *sheet);
    else
        blocksCard_->hide();
}

void WorkbenchPage::showMeasured() {
    const auto points = measuring_.measured();
    const auto sheet = session_.sheet(platform_.toStdString());
    const bool forQuestion = offer_->asks("size");
    if (points && forQuestion) offer_->point(points->first, points->second);
    if (points && sheet && !forQuestion)
        measureCard_->show(points->first, points->second, *sheet);
    else
        measureCard_->hide();
}

void WorkbenchPage::showSelection() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    if (sheet && state.kind == CrossingState::Kind::Ready && !selected_->empty())
        selectionCard_->show(*selected_, state.evaluation.model, *sheet,
                             !session_.project().yardsticks.empty());
    else
        selectionCard_->hide();
}

void WorkbenchPage::addOffered(const std::string& step, const nlohmann::json& params, bool ofPiece) {
    try {
        steps::makeStep(step, params); // what was clicked may be larger than a step takes
        view_->setTool(nullptr);
        setStage(steps::infoOf(step).stage);
        steps_->add(step, params, ofPiece);
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
}

void WorkbenchPage::chooseRule(const QString& id) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto* rule =
        state.kind == CrossingState::Kind::Ready ? state.report.rule(id.toStdString()) : nullptr;
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!rule || !sheet) return;
    const bool fresh = rule_ != id;
    rule_ = id;
    if (fresh) {
        offer_->leave();
        setStage(stageOf(*rule));
    }
    const auto& found = rule->finding;
    const LitFaces lit{{found.nodes.begin(), found.nodes.end()},
                       {found.materials.begin(), found.materials.end()},
                       found.faces};
    view_->setHighlight(lit, lit.empty() ? QString() : qs(found.note));
    ruleCard_->show(*rule, state.evaluation.model, *sheet);
}

void WorkbenchPage::suggest() {
    offer_->suggest(piece_, platform_);
}

void WorkbenchPage::showPreview(const PlanPreview& preview) {
    strip_->show(preview.after, &preview.before);
    if (const auto sheet = session_.sheet(platform_.toStdString()))
        contact_->showBodies(preview.model.colliders, sheet->figureMetres());
    scenes_->showInstead(preview.model, false, tr("with the ticked steps"));
}

void WorkbenchPage::endOffer() {
    view_->setTool(nullptr);
    scenes_->showInstead(std::nullopt);
    if (!piece_.isEmpty() && session_.project().piece(piece_.toStdString())) refresh();
}

void WorkbenchPage::showParts() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto scene = view_->scene();
    if (parts_->isVisible() && scene) parts_->show(state.evaluation.model, scene->swatches);
}

void WorkbenchPage::keepSelection(const QString& name) {
    const auto kept = selected_->asSelection();
    if (name.isEmpty() || kept.empty()) return;
    session_.editPiece(tr("keep the selection %1").arg(name), piece_, [&](project::Piece& piece) {
        std::erase_if(piece.selections, [&](const auto& other) { return other.name == name.toStdString(); });
        piece.selections.push_back({name.toStdString(), kept});
    });
    Q_EMIT session_.said(tr("Kept as \"%1\": steps of this piece can use it by name.").arg(name));
}

bool WorkbenchPage::isSettled() const {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const bool nothingToDraw = state.kind == CrossingState::Kind::Failed && !state.hasResult();
    const bool drawn = surface_->sight() != SurfaceSight::Model ? surface_->isSettled()
                       : map_->isOn()                           ? map_->isSettled()
                                      : nothingToDraw || (scenes_->isReady() && view_->isResting());
    return session_.jobs().running().isEmpty() && drawn;
}

void WorkbenchPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape && offer_->isOpen()) return offer_->leave();
    if (event->key() == Qt::Key_Space && clips_->isVisible()) return clips_->play(!clips_->isPlaying());
    if (event->key() == Qt::Key_M)
        return view_->setTool(view_->tool() == &measuring_ ? nullptr : &measuring_);
    if (!view_->pressKey(*event)) QWidget::keyPressEvent(event);
}

void WorkbenchPage::keyReleaseEvent(QKeyEvent* event) {
    if (!view_->releaseKey(*event)) QWidget::keyReleaseEvent(event);
}

} // namespace zl::app
