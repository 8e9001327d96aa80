#include "app/solids/solids_mode.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/solids/solid_forms.h"
#include "app/view/tools/key_way.h"
#include "app/widgets/flow_row.h"

#include "core/project/dependencies.h"
#include "core/solids/scene_edits.h"

#include <QFileDialog>
#include <QKeyEvent>
#include <QToolButton>

#include <algorithm>

namespace zl::app {

namespace fs = std::filesystem;
using solids::Number;
using solids::Solid;

namespace {

constexpr double snapSteps[] = {0, 0.01, 0.05, 0.1, 0.25, 0.5, 1};
constexpr int usualSnap = 3;

} // namespace

SolidsMode::SolidsMode(Session& session, ModelView& view, WorkbenchScenes& scenes, FlowRow& row,
                       SolidsCard& card, const MakeSwitch& make, QObject* parent)
    : QObject(parent), session_(session), view_(view), scenes_(scenes), card_(card),
      pictures_(session, this) {
    edits_ = make("solids", tr("Edit solids"),
                  tr("Choose, move and change the solids and lights of the scene"), false, [this](bool on) {
                      if (on || isInHand()) view_.setTool(on ? &tool_ : nullptr);
                      if (on) view_.setFocus();
                  });
    row.add(edits_);
    kinds_ = new ChoiceBox;
    kinds_->setObjectName("mode-solid-kind");
    kinds_->setAccessibleName(tr("What to put down"));
    kinds_->addItem(tr("Put down…"));
    for (const std::string_view kind : solids::kindNames) kinds_->addItem(qs(std::string(kind)));
    for (const std::string_view kind : solids::lightNames)
        kinds_->addItem(tr("light: %1").arg(qs(std::string(kind))));
    connect(kinds_, &QComboBox::activated, this, [this](int index) {
        constexpr int count = int(std::size(solids::kindNames));
        if (index > count)
            addLight(solids::LightKind(index - 1 - count));
        else if (index > 0)
            add(solids::Kind(index - 1));
        kinds_->setCurrentIndex(0);
        view_.setFocus();
    });
    row.add(kinds_);
    always_.push_back(kinds_);
    snaps_ = new ChoiceBox;
    snaps_->setObjectName("mode-solid-snap");
    snaps_->setAccessibleName(tr("Steps of moves"));
    snaps_->setMinimumContentsLength(13);
    snaps_->setToolTip(tr("Moves are whole steps of this, or end where ends or middles meet other solids'"));
    for (const double step : snapSteps)
        snaps_->addItem(step > 0 ? tr("steps of %1 cm").arg(qRound(100 * step)) : tr("any step"));
    snaps_->addItem(tr("onto others"));
    snaps_->setCurrentIndex(usualSnap);
    tool_.snap = snapSteps[usualSnap];
    connect(snaps_, &QComboBox::currentIndexChanged, this, [this](int index) {
        constexpr int steps = int(std::size(snapSteps));
        tool_.onOthers = index == steps;
        tool_.snap = index >= 0 && index < steps ? snapSteps[index] : 0;
    });
    row.add(snaps_);
    always_.push_back(snaps_);
    const auto action = [&](const char* name, const QString& text, const QString& tip, auto work) {
        auto* made = row.addButton(name, text, tip);
        connect(made, &QToolButton::clicked, this, work);
        forChosen_.push_back(made);
    };
    action("solid-copy", tr("Copy"), tr("The same once more, a step aside (Ctrl+D)"), [this] { copy(); });
    action("solid-group", tr("Group"), tr("What is chosen as one group (G)"), [this] { group(); });
    action("solid-ungroup", tr("Ungroup"), tr("Out of its group (Shift+G)"), [this] { ungroup(); });
    action("solid-lead", tr("Leads"), tr("The others of its group go by the chosen one"), [this] {
        edit(tr("choose what leads"), [&](solids::Scene& scene) {
            const auto chosen = solids::solidsAmong(scene, tool_.chosen);
            if (chosen.size() == 1) solids::lead(scene, *chosen.begin());
        });
    });
    action("solid-remove", tr("Remove"), tr("Takes it out of the scene (Delete)"), [this] { remove(); });
    aloneSwitch_ = make("solid-alone", tr("This group alone"),
                        tr("Sees through all but the group of what is chosen"), false, [this](bool on) {
                            alone_ = on;
                            showAll();
                        });
    row.add(aloneSwitch_);
    forChosen_.push_back(aloneSwitch_);
    tool_.scene = [this]() -> const solids::Scene* { return held_ ? &held_->scene : nullptr; };
    tool_.place = [this] {
        // Steps move the whole; all solids go along alike.
        const Model& made = session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model;
        const solids::Shown* shown = solids::shownBy(made);
        if (!shown || shown->parts.empty()) return glm::dmat4(1);
        const Solid& first = shown->scene.solids.at(shown->parts[0].solid);
        return worldMatrices(made)[std::size_t(solids::nodesOf(made)[0])] *
               glm::inverse(solids::placeOf(first.at, first.turn));
    };
    tool_.choseAnother = [this] { showAll(); };
    tool_.moved = [this](const glm::dvec3& by) { moveBy(tr("move solids"), by); };
    tool_.keyed = [this](const QKeyEvent& event) { return keyed(event); };
    connect(&view_, &ModelView::toolChanged, this, [this] {
        edits_->setChecked(isInHand());
        showAll();
    });
    connect(&card_, &SolidsCard::chose, this, [this](const std::set<Number>& numbers) {
        tool_.chosen = numbers;
        showAll();
    });
    connect(&card_, &SolidsCard::edited, this, &SolidsMode::take);
    connect(&pictures_, &ScenePictures::came, this, [this] {
        shownOf_ = nullptr;
        showScene();
    });
    connect(&card_, &SolidsCard::pictured, this, &SolidsMode::showPicture);
    connect(&card_, &SolidsCard::pictureSought, this, &SolidsMode::seekPicture);
    // Once the tree is done with it: it is built anew.
    connect(
        &card_, &SolidsCard::renamed, this,
        [this](Number number, const QString& name) {
            edit(tr("rename %1").arg(name),
                 [&](solids::Scene& scene) { solids::rename(scene, number, name.toStdString()); });
        },
        Qt::QueuedConnection);
    connect(&session_, &Session::crossingComes, this,
            [this](const QString& piece, const QString& platform, const std::shared_ptr<const Model>& model) {
                if (piece != piece_ || platform != platform_ || isInHand()) return;
                comes_ = true;
                scenes_.showInstead(*model, false, tr("getting finer"));
            });
    edits_->hide();
    for (QWidget* one : always_) one->hide();
    for (QWidget* one : forChosen_) one->hide();
}

std::shared_ptr<const project::SolidsDocument> SolidsMode::document() const {
    if (file_.empty()) return nullptr;
    try {
        return std::dynamic_pointer_cast<const project::SolidsDocument>(
            session_.documents().now(file_).document);
    } catch (const Error&) {
        return nullptr; // the piece says so itself
    }
}

void SolidsMode::refresh(const QString& piece, const QString& platform, bool here) {
    const bool other = piece != piece_ || platform != platform_;
    if (other) tool_.chosen.clear(), shownOf_ = nullptr, alone_ = false;
    piece_ = piece, platform_ = platform;
    if (comes_ && (other || session_.state(piece.toStdString(), platform.toStdString()).kind !=
                                CrossingState::Kind::Working)) {
        comes_ = false;
        if (!isInHand()) scenes_.showInstead(std::nullopt), scenes_.refresh();
    }
    file_.clear();
    const auto& project = session_.project();
    const project::Piece* of = project.piece(piece.toStdString());
    if (here && of && of->sources.size() == 1) {
        const fs::path file = project::wholePath(project, of->sources[0].path);
        const project::DocumentKind* kind = session_.documents().kindOf(file);
        if (kind && kind->id == project::solidsKind.id) file_ = file;
    }
    held_ = document();
    edits_->setVisible(bool(held_));
    if (!held_ && isInHand()) view_.setTool(nullptr);
    showAll();
}

void SolidsMode::showAll() {
    held_ = document();
    const bool inHand = held_ && isInHand();
    if (held_)
        std::erase_if(tool_.chosen, [&](Number number) {
            return !held_->scene.solids.contains(number) && !held_->scene.lights.contains(number);
        });
    const bool any = inHand && !solids::solidsAmong(held_->scene, tool_.chosen).empty();
    for (QWidget* one : always_) one->setVisible(inHand);
    for (QWidget* one : forChosen_) one->setVisible(any);
    aloneSwitch_->setVisible(inHand && (any || alone_));
    aloneSwitch_->setChecked(alone_);
    card_.show(inHand ? &held_->scene : nullptr, tool_.chosen, session_.sheet(platform_.toStdString()),
               any ? pictures_.beside() : QStringList());
    showScene();
    view_.repaintOver();
}

void SolidsMode::showScene() {
    const bool inHand = held_ && isInHand() && !held_->scene.solids.empty();
    if (!inHand) {
        if (shownOf_) {
            shownOf_ = nullptr;
            view_.setGhost(nullptr);
            scenes_.showInstead(std::nullopt);
            scenes_.refresh();
        }
        return;
    }
    pictures_.show(held_->scene, file_);
    const auto chosen = solids::solidsAmong(held_->scene, tool_.chosen);
    const std::optional<Number> group = alone_ && !chosen.empty()
                                            ? std::optional(held_->scene.solids.at(*chosen.begin()).group)
                                            : std::nullopt;
    if (shownOf_ == held_ && shownGroup_ == group) return;
    shownOf_ = held_, shownGroup_ = group;
    solids::Scene seen = held_->scene, behind;
    if (group) {
        behind = seen;
        std::erase_if(seen.solids, [&](const auto& one) { return one.second.group != *group; });
        std::erase_if(behind.solids, [&](const auto& one) { return one.second.group == *group; });
        for (solids::Scene* scene : {&seen, &behind})
            for (auto& [number, one] : scene->groups) one.lead = 0;
    }
    const glm::dmat4 place = tool_.place();
    scenes_.showInstead(moved(solids::modelOf(std::move(seen), piece_.toStdString(), pictures_.now()), place),
                        false, tr("as it is edited"));
    view_.setGhost(behind.solids.empty()
                       ? nullptr
                       : makeScene(moved(solids::modelOf(std::move(behind), "rest"), place), {}));
}

void SolidsMode::edit(const QString& what, const std::function<void(solids::Scene&)>& change,
                      const QString& mergeKey) {
    if (!held_) return;
    solids::Scene after = held_->scene;
    change(after);
    project::SceneParts parts = project::SceneParts::between(held_->scene, after);
    if (parts.empty()) return;
    try {
        session_.editDocument(what, file_, std::make_unique<project::SolidsChange>(std::move(parts)),
                              mergeKey);
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
    showAll();
}

void SolidsMode::add(solids::Kind kind) {
    edit(tr("put down a solid"), [&](solids::Scene& scene) {
        const Number number = scene.fresh();
        Solid solid;
        const auto chosen = solids::solidsAmong(scene, tool_.chosen);
        if (!chosen.empty()) { // like it, beside it and in its group
            const Solid& beside = scene.solids.at(*chosen.rbegin());
            solid.look = beside.look, solid.group = beside.group;
            solid.at = beside.at + glm::dvec3(beside.shape.size.x / 2 + 0.5, 0, 0);
            solid.at.y = 0.5;
        } else {
            const glm::dvec3 target(glm::inverse(tool_.place()) * glm::dvec4(view_.camera().target, 1));
            solid.at =
                tool_.snapped({scene.solids.empty() ? 0 : target.x, 0, scene.solids.empty() ? 0 : target.z});
            solid.at.y = 0.5;
        }
        solid.shape.kind = kind;
        solid.name = std::string(solids::kindNames[std::size_t(kind)]);
        scene.solids[number] = std::move(solid);
        tool_.chosen = {number};
    });
}

void SolidsMode::addLight(solids::LightKind kind) {
    edit(tr("put up a light"), [&](solids::Scene& scene) {
        const Number number = scene.fresh();
        solids::Light light;
        light.kind = kind, light.name = std::string(solids::lightNames[std::size_t(kind)]);
        light.at = {0, 2.5, 0};
        if (kind == solids::LightKind::Sun) light.turn = {40, 30, 0}, light.size = {1, 1};
        if (kind == solids::LightKind::Area) light.size = {1, 1};
        scene.lights[number] = std::move(light);
        tool_.chosen = {number};
    });
}

void SolidsMode::copy() {
    edit(tr("copy solids"), [&](solids::Scene& scene) {
        const double step = std::max(tool_.snap, 0.1);
        tool_.chosen = solids::copy(scene, tool_.chosen, {step, 0, step});
    });
}

void SolidsMode::group() {
    edit(tr("group solids"), [&](solids::Scene& scene) { solids::group(scene, tool_.chosen); });
}

void SolidsMode::ungroup() {
    edit(tr("ungroup solids"), [&](solids::Scene& scene) { solids::ungroup(scene, tool_.chosen); });
}

void SolidsMode::remove() {
    edit(tr("remove solids"), [&](solids::Scene& scene) {
        solids::remove(scene, tool_.chosen);
        tool_.chosen.clear();
    });
}

void SolidsMode::moveBy(const QString& what, const glm::dvec3& by, const QString& mergeKey) {
    edit(
        what, [&](solids::Scene& scene) { solids::move(scene, tool_.chosen, by); }, mergeKey);
}

void SolidsMode::eachLook(solids::Scene& scene, int face, const std::function<void(solids::Look&)>& change) {
    for (const Number number : solids::solidsAmong(scene, tool_.chosen)) {
        Solid& solid = scene.solids.at(number);
        if (face >= 0) {
            solids::Look look = solid.lookOf(face);
            change(look);
            solid.faces[face] = look;
            continue;
        }
        change(solid.look);
        for (auto& [own, look] : solid.faces) change(look);
    }
}

void SolidsMode::showPicture(const QString& picture, int face) {
    edit(tr("choose a picture"), [&](solids::Scene& scene) {
        eachLook(scene, face, [&](solids::Look& look) { look.picture = picture.toStdString(); });
    });
}

void SolidsMode::seekPicture(int face) {
    const QString chosen =
        QFileDialog::getOpenFileName(&view_, tr("A picture for it"), qs(file_.parent_path().string()),
                                     tr("Pictures (%1)").arg(ScenePictures::endings().join(' ')));
    if (!chosen.isEmpty())
        pictures_.bringIn(chosen, [this, face, of = file_](const QString& name) {
            if (of == file_) showPicture(name, face);
        });
}

void SolidsMode::take(const QString& form, const QString& field, const nlohmann::json& value, int face) {
    const nlohmann::json given{{field.toStdString(), value}};
    const auto into = [&](auto values, auto& part) {
        using Form = decltype(values);
        fields::readInto(Form::fields, &values, given, form.toStdString());
        values.to(part);
    };
    try {
        edit(
            form == "light" ? tr("change a light") : tr("change solids"),
            [&](solids::Scene& scene) {
                if (form == "scene") into(SceneForm::of(scene), scene);
                for (const Number number : tool_.chosen) {
                    const auto solid = scene.solids.find(number);
                    const auto light = scene.lights.find(number);
                    if (form == "solid" && solid != scene.solids.end())
                        into(SolidForm::of(solid->second), solid->second);
                    if (form == "light" && light != scene.lights.end())
                        into(LightForm::of(light->second), light->second);
                }
                if (form == "look")
                    eachLook(scene, face, [&](solids::Look& look) { into(LookForm::of(look), look); });
                if (form == "picture")
                    eachLook(scene, face, [&](solids::Look& look) { into(PictureForm::of(look), look); });
            },
            "solids-" + form + "-" + field);
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
}

bool SolidsMode::keyed(const QKeyEvent& event) {
    if (!held_) return false;
    const bool ctrl = event.modifiers() & Qt::ControlModifier, shift = event.modifiers() & Qt::ShiftModifier;
    if (ctrl && event.key() == Qt::Key_A) {
        tool_.chosen.clear();
        for (const auto& [number, solid] : held_->scene.solids) tool_.chosen.insert(number);
        return showAll(), true;
    }
    if (tool_.chosen.empty()) return false;
    if (ctrl && event.key() == Qt::Key_D) return copy(), true;
    if (!ctrl && event.key() == Qt::Key_G) return shift ? ungroup() : group(), true;
    if (event.key() == Qt::Key_Delete) return remove(), true;
    if (event.key() == Qt::Key_Escape) return tool_.chosen.clear(), showAll(), true;
    const double step = tool_.snap > 0 ? tool_.snap : 0.01;
    const auto way = wayOf(event, view_.camera());
    if (!way) return false;
    moveBy(tr("move solids"), glm::dvec3(*way) * step, "solids-move");
    return true;
}

} // namespace zl::app
