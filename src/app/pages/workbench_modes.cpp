// The rows on the workbench's view: what it shows and what the hand does on it above, from where it is seen
// below.
#include "app/pages/workbench_page.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/widgets/flow_row.h"
#include "app/widgets/ui.h"

#include "core/avatar/keys.h"
#include "core/geometry/levels.h"

#include <QToolButton>
#include <QTreeWidget>

#include <cmath>

namespace zl::app {

void WorkbenchPage::addModes() {
    auto* modes = new FlowRow(view_);
    surfaceSwitch_ = new SurfaceSwitch(*modes, this);
    const auto plain = [&](const char* name, const QString& text, const QString& tip, bool ModelView::*flag) {
        modes->add(modeButton(name, text, tip, view_->*flag, [this, flag](bool on) {
            view_->*flag = on;
            scenes_->show();
        }));
    };
    // Of what stands beside the model only one at a time has room.
    const auto beside = [&](const char* name, const QString& text, const QString& tip, bool ModelView::*flag,
                            bool ModelView::*otherFlag, const char* other) {
        modes->add(modeButton(name, text, tip, false, [this, flag, otherFlag, other](bool on) {
            view_->*flag = on;
            if (on) view_->*otherFlag = false, modes_[other]->setChecked(false);
            if (on && flag == &ModelView::showYardstick) scenes_->showYardstick();
            view_->frameAll();
        }));
    };
    plain("solid", tr("Solid"), tr("Filled faces"), &ModelView::solid);
    auto* faces = new ChoiceBox;
    faces->setObjectName("mode-faces");
    faces->setAccessibleName(tr("How faces look"));
    faces->setToolTip(tr("How faces look: as they will be, by shape alone, or by their materials' groups"));
    faces->addItems({tr("With pictures"), tr("Smooth"), tr("Flat"), tr("Groups in colours")});
    connect(faces, &QComboBox::activated, this, [this](int index) {
        view_->faces = Faces(index);
        scenes_->show();
    });
    modes->add(faces);
    level_ = new ChoiceBox;
    level_->setObjectName("mode-level");
    level_->setAccessibleName(tr("Level of detail"));
    level_->setToolTip(tr("Which level is shown; compare it with the whole by Before | after"));
    connect(level_, &QComboBox::activated, this, &WorkbenchPage::showLevel);
    connect(view_, &ModelView::looked, this, &WorkbenchPage::followDistance);
    level_->hide();
    modes->add(level_);
    plain("wire", tr("Wire"), tr("Edges of the triangles"), &ModelView::wire);
    plain("collider", tr("Collider"), tr("The shape that physics uses"), &ModelView::showCollider);
    contact_ = new ContactMode(
        session_, *view_, *modes,
        [this](const QString& name, const QString& text, const QString& tip, bool on,
               std::function<void(bool)> set) { return modeButton(name, text, tip, on, set); },
        this);
    modes->add(modeButton("map", tr("Map"), tr("Where in the game's world it stands"), false,
                          [this](bool on) { map_->setOn(on); }));
    plain("figure", tr("Figure"), tr("A figure of the platform's height"), &ModelView::showFigure);
    modes->add(modeButton("deviation", tr("Deviation"),
                          tr("How far the reduced surface is from the one before, as colours"), false,
                          [this](bool on) {
                              view_->deviation = on;
                              if (on) scenes_->measureDeviation();
                              scenes_->show();
                          }));
    auto* bones =
        modeButton("bones", tr("Bones"), tr("The rig over the piece; a click on a bone shows how it moves"),
                   false, [this](bool on) {
                       view_->bones().shown = on;
                       view_->repaintOver();
                   });
    auto* path = modeButton("path", tr("Path"),
                            tr("The way on which a clip carries the piece, and did before its steps, on the "
                               "floor"),
                            true, [this](bool on) { way_->setOn(on); });
    auto* weights = modeButton("weights", tr("Weights"),
                               tr("How much each place hangs on the bone that is chosen, as colours"), false,
                               [this](bool) { showWeights(); });
    auto* ghost = modeButton("ghost", tr("Ghost"),
                             tr("The piece as it was before its steps at the same moment, seen through"),
                             false, [this](bool on) { player_->showGhost(on); });
    auto* face = modeButton("face", tr("Face"), tr("Try the avatar's expressions, its eyes and its lids"),
                            false, [this](bool on) { showFace(on); });
    for (auto* made : {bones, path, weights, ghost, face}) made->hide(), modes->add(made);
    plain("wipe", tr("Before | after"),
          tr("Compare with the piece before it was shaped and dressed; drag the line. Hold B to see before "
             "only."),
          &ModelView::wipe);
    modes->add(
        modeButton("clipping", tr("Clipping"),
                   tr("Lights what reaches into what, in the pose that is shown, and lists it by depth"),
                   false, [this](bool on) { clipping_->setOn(on); }));
    auto* sizes = modeButton("sizes", tr("Both sizes"),
                             tr("The piece's sizes side by side, held against each other, and blended"),
                             false, [this](bool on) {
                                 sizes_->setOn(on);
                                 if (!on && !piece_.isEmpty()) refresh();
                             });
    sizes->hide();
    modes->add(sizes);
    modes->addGap();
    beside("stack", tr("Stack"), tr("Copies stacked beside, as a measuring stick"), &ModelView::stack,
           &ModelView::showYardstick, "yardstick");
    beside("yardstick", tr("Yardstick"), tr("An object of known size beside it; bring one in on Gather"),
           &ModelView::showYardstick, &ModelView::stack, "stack");
    const auto tool = [&](const char* name, const QString& text, const QString& tip, ViewTool& of) {
        auto* made = modeButton(name, text, tip, false, [this, &of](bool on) {
            if (on || view_->tool() == &of) view_->setTool(on ? &of : nullptr);
        });
        modes->add(made);
        connect(view_, &ModelView::toolChanged, made,
                [this, made, &of] { made->setChecked(view_->tool() == &of); });
    };
    tool("measure", tr("Measure"), tr("Distance between two points (M)"), measuring_);
    tool("faces", tr("Pick faces"), tr("Select faces by clicking or drawing around them"), *faces_);
    blocks_ = new BlocksMode(
        session_, *view_, *scenes_, *modes,
        [this](const QString& name, const QString& text, const QString& tip, bool on,
               std::function<void(bool)> set) { return modeButton(name, text, tip, on, set); },
        this);
    solidsCard_ = new SolidsCard;
    solids_ = new SolidsMode(
        session_, *view_, *scenes_, *modes, *solidsCard_,
        [this](const QString& name, const QString& text, const QString& tip, bool on,
               std::function<void(bool)> set) { return modeButton(name, text, tip, on, set); },
        this);
    partsToSolids_ = new PartsToSolids(session_, *modes, this);
    connect(partsToSolids_, &PartsToSolids::made, this,
            [this](const QString& piece) { open(piece, platform_); });
    auto* sides = new FlowRow(view_, Qt::BottomEdge);
    const auto look = [&](const char* name, const QString& text, const QString& tip, auto does) {
        connect(sides->addButton(name, text, tip), &QToolButton::clicked, view_, does);
    };
    const auto from = [this](ModelView::From side) { return [this, side] { view_->lookFrom(side); }; };
    look("ahead", tr("Ahead"), tr("Look at its front, once more at its back (A)"),
         from(ModelView::From::Ahead));
    look("side", tr("Side"), tr("Look from its side, once more from the other (S)"),
         from(ModelView::From::Side));
    look("above", tr("Above"), tr("Look from above, once more from below (T)"), from(ModelView::From::Above));
    look("whole", tr("Whole"), tr("Bring the whole piece into sight (F)"), &ModelView::frameAll);
}

QToolButton* WorkbenchPage::modeButton(const QString& name, const QString& text, const QString& tip, bool on,
                                       const std::function<void(bool)>& set) {
    auto* made = new QToolButton;
    made->setObjectName("mode-" + name);
    made->setText(text);
    made->setToolTip(tip);
    made->setCheckable(true);
    made->setChecked(on);
    made->setProperty("mode", true);
    made->setFocusPolicy(Qt::StrongFocus);
    connect(made, &QToolButton::toggled, this, set);
    modes_[name] = made;
    return made;
}

void WorkbenchPage::offerLevels(const CrossingState& state) {
    const Model& model = state.evaluation.model;
    const int count = geometry::levelCount(model);
    level_->setVisible(count > 1);
    const int was = level_->currentIndex();
    level_->clear();
    levelSeen_ = -1;
    if (count == 1) {
        if (was > 0) scenes_->showInstead(std::nullopt);
        return;
    }
    std::vector<double> off(std::size_t(count), 0);
    for (const auto& outcome : state.evaluation.outcomes)
        if (outcome.facts.contains("levels"))
            for (const auto& level : outcome.facts["levels"])
                if (const auto at = level.value("level", 0); at > 0 && at < count)
                    off[std::size_t(at)] = level.value("deviation", 0.0);
    levelFrom_.clear();
    for (int level = 0; level < count; ++level) {
        const auto triangles = qs(showNumber(double(triangleCount(geometry::atLevel(model, level))), 0));
        // From where its deviation is smaller than a pixel of a picture 1080 high that shows 60° of height.
        const double from = off[std::size_t(level)] * 1080 / (2 * std::tan(glm::radians(30.0)));
        levelFrom_.push_back(from);
        level_->addItem(level == 0
                            ? tr("Whole, %1 triangles").arg(triangles)
                            : tr("Level %1, %2, from %3 m").arg(level).arg(triangles, qs(showMeasure(from))));
    }
    level_->addItem(tr("By the camera's distance"));
    if (was > 0 && was <= count) level_->setCurrentIndex(was), showLevel(was);
}

/// The coarsest level that does from where the camera is, where it is to choose.
void WorkbenchPage::followDistance() {
    if (levelSeen_ < 0) return;
    const double distance = view_->camera().distance;
    int seen = 0;
    for (std::size_t level = 1; level < levelFrom_.size(); ++level)
        if (distance >= levelFrom_[level]) seen = int(level);
    if (seen == levelSeen_) return;
    levelSeen_ = seen;
    scenes_->showInstead(
        geometry::atLevel(session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model,
                          seen),
        false, tr("%1 m away: %2").arg(qs(showMeasure(distance)), level_->itemText(seen)));
}

void WorkbenchPage::showLevel(int level) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    levelSeen_ = -1;
    if (level == int(levelFrom_.size()) && level > 0) {
        levelSeen_ = int(levelFrom_.size()); // none of them
        followDistance();
    } else if (level <= 0) {
        scenes_->showInstead(std::nullopt);
        scenes_->refresh();
    } else
        scenes_->showInstead(geometry::atLevel(state.evaluation.model, level), false,
                             level_->itemText(level));
}

void WorkbenchPage::offerBones() {
    const auto scene = view_->restScene();
    const bool there = stage_ == steps::Stage::Motion && scene && !scene->bones.empty();
    const bool moves = stage_ == steps::Stage::Motion && scene && (there || !scene->model.clips.empty());
    modes_["bones"]->setVisible(there);
    modes_["weights"]->setVisible(there);
    modes_["ghost"]->setVisible(moves);
    modes_["path"]->setVisible(moves && !scene->model.clips.empty());
    parts_->showBones(there ? scene->model : Model());
    parts_->bones().choose(view_->bones().chosen);
    view_->bones().shown = there && modes_["bones"]->isChecked();
    player_->showGhost(moves && modes_["ghost"]->isChecked());
    showWeights();
    const bool faces = stage_ == steps::Stage::Motion && scene && scene->model.avatar && !offer_->isOpen();
    modes_["face"]->setVisible(faces);
    faceCard_->show(faces ? scene->model : Model());
    showFace(faces && modes_["face"]->isChecked());
    view_->repaintOver();
}

void WorkbenchPage::showFace(bool on) {
    const auto scene = view_->restScene();
    if (on && !faceCard_->isVisible() && scene)
        if (const int head = avatar::boneOf(scene->model, "head");
            head >= 0) { // close by, for a face is small
            const double tall = scene->bounds.size().y;
            view_->frame(glm::dvec3(worldMatrices(scene->model)[std::size_t(head)][3]) +
                             glm::dvec3(0, tall / 12, 0),
                         tall / 3);
        }
    faceCard_->setVisible(on);
    player_->wear(on ? faceCard_->face() : std::nullopt);
}

void WorkbenchPage::chooseBone(const QString& bone) {
    view_->bones().chosen = bone;
    parts_->bones().choose(bone);
    clips_->showCurveOf(bone);
    showWeights();
}

void WorkbenchPage::showWeights() {
    const auto scene = view_->restScene();
    const bool on = scene && !modes_["weights"]->isHidden() && modes_["weights"]->isChecked();
    QString bone = clips_->whose();
    if (bone.isEmpty()) bone = view_->bones().chosen;
    player_->weigh(on ? std::optional(bone) : std::nullopt);
}

void WorkbenchPage::showMode(const QString& mode, bool on) {
    if (modes_.contains(mode)) return modes_[mode]->setChecked(on);
    if (mode == "parts") return rail_->partsButton().setChecked(on);
    if (mode.startsWith("clip-")) return clips_->choose(mode.section('-', 1));
    if (mode.startsWith("row-")) { // a row of the scene's tree, by its name: "row-bench"
        for (auto* item : solidsCard_->findChild<QTreeWidget*>()->findItems(
                 mode.mid(4), Qt::MatchExactly | Qt::MatchRecursive))
            item->setSelected(true);
        return;
    }
    if (mode.startsWith("slide-")) { // a slider and its percent: "slide-happy-80"
        if (auto* slider = findChild<QSlider*>(mode.section('-', 0, -2)))
            slider->setValue(mode.section('-', -1).toInt());
        return;
    }
    if (mode.startsWith("frame-")) return clips_->goTo(mode.section('-', 1).toInt());
    if (mode.startsWith("material-")) return materials_->open(mode.section('-', 1));
    for (const QString& name : {"mode-" + mode, "sight-" + mode, mode})
        if (auto* button = findChild<QAbstractButton*>(name)) {
            if (!button->isCheckable() || button->isChecked() != on) button->click();
            return;
        }
}

} // namespace zl::app
