#include "app/pages/steps_panel.h"

#include "app/pages/step_offers.h"
#include "app/qt_text.h"
#include "app/fields/field_editor.h"
#include "app/widgets/choosable_card.h"
#include "app/widgets/stage_rail.h"
#include "app/widgets/ui.h"
#include "app/widgets/wrapped_button.h"

#include <QAbstractSpinBox>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {} // namespace

StepsPanel::StepsPanel(Session& session, Selected& selected, QWidget* parent)
    : QWidget(parent), session_(session), selectedInView_(selected) {
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(9);
}

void StepsPanel::show(const QString& piece, const QString& platform, steps::Stage stage) {
    const bool other = piece != piece_ || platform != platform_ || stage != stage_;
    piece_ = piece, platform_ = platform, stage_ = stage;
    if (other) {
        const auto all = places();
        selected_ = all.empty() ? EntryPlace{} : all.back();
    }
    rebuild();
    if (!other) return;
    scrollToChosen();
    Q_EMIT selectionChanged();
}

const recipe::Entry* StepsPanel::entry(EntryPlace place) const {
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece || place.index < 0) return nullptr;
    const auto* crossing = piece->on(platform_.toStdString());
    const recipe::Recipe* recipe = place.ofPiece ? &piece->recipe : crossing ? &crossing->recipe : nullptr;
    return recipe && place.index < int(recipe->size()) ? &(*recipe)[place.index] : nullptr;
}

std::vector<EntryPlace> StepsPanel::places() const {
    std::vector<EntryPlace> out;
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return out;
    const auto collect = [&](const recipe::Recipe& recipe, bool ofPiece) {
        for (int i = 0; i < int(recipe.size()); ++i)
            if (steps::infoOf(recipe[i].step).stage == stage_) out.push_back({ofPiece, i});
    };
    collect(piece->recipe, true);
    if (const auto* crossing = piece->on(platform_.toStdString())) collect(crossing->recipe, false);
    return out;
}

void StepsPanel::change(const QString& what, EntryPlace place,
                        const std::function<void(recipe::Recipe&, int)>& edit, const QString& mergeKey) {
    session_.editPiece(
        what, piece_,
        [&](project::Piece& piece) {
            edit(place.ofPiece ? piece.recipe : piece.setUpOn(platform_.toStdString()).recipe, place.index);
        },
        mergeKey);
}

void StepsPanel::setParam(EntryPlace place, const std::string& field, const nlohmann::json& value,
                          const QString& mergeKey) {
    setParams(place, nlohmann::json{{field, value}}, mergeKey);
}

void StepsPanel::setParams(EntryPlace place, const nlohmann::json& values, const QString& mergeKey) {
    const recipe::Entry* now = entry(place);
    if (!now) return;
    try {
        auto step = steps::makeStep(now->step);
        step->setParams(now->params);
        step->setParams(values);
        const auto params = step->params();
        if (params == now->params) return;
        change(
            tr("change %1").arg(qs(step->info().name)), place,
            [&](recipe::Recipe& recipe, int i) { recipe[i].params = params; }, mergeKey);
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
        rebuild();
    }
}

void StepsPanel::add(const std::string& id, const nlohmann::json& params, bool ofPiece) {
    auto step = steps::makeStep(id);
    step->setParams(params);
    EntryPlace place{ofPiece, 0};
    change(tr("add %1").arg(qs(step->info().name)), place, [&](recipe::Recipe& recipe, int) {
        place.index = int(recipe::insertInOrder(recipe, {id, !step->looksFirst(), step->params()}));
    });
    select(place);
    scrollToChosen();
}

void StepsPanel::scrollToChosen() {
    scrollSoon(this, [this]() -> QWidget* {
        for (auto* card : findChildren<ChoosableCard*>())
            if (card->isVisible() && card->property("selected").toBool()) return card;
        return nullptr;
    });
}

void StepsPanel::select(EntryPlace place) {
    if (selected_ == place) return;
    selected_ = place;
    rebuild();
    Q_EMIT selectionChanged();
}

void StepsPanel::turn(EntryPlace place, bool on) {
    const recipe::Entry* now = entry(place);
    if (!now) return;
    const QString step = qs(steps::infoOf(now->step).name);
    change(on ? tr("turn on %1").arg(step) : tr("turn off %1").arg(step), place,
           [on](recipe::Recipe& recipe, int i) { recipe[std::size_t(i)].on = on; });
}

void StepsPanel::setLooked(const QString& words) {
    if (looked_ == words) return;
    looked_ = words;
    rebuild();
}

void StepsPanel::editField(const QString& field) {
    auto* editor = findChild<QWidget*>("field-" + field);
    if (!editor) return;
    editor->setFocus();
    if (auto* number = qobject_cast<QAbstractSpinBox*>(editor)) number->selectAll();
}

QWidget* StepsPanel::card(EntryPlace place, const recipe::Entry& entry, const recipe::Outcome* outcome) {
    const auto step = steps::makeStep(entry.step);
    step->setParams(entry.params);
    const bool chosen = place == selected_;
    auto* frame = new ChoosableCard;
    frame->setObjectName("card-" + qs(entry.step));
    frame->setAccessibleName(tr("Step %1, %2").arg(qs(step->info().name), entry.on ? tr("on") : tr("off")));
    frame->setProperty("selected", chosen);
    frame->chosen = [this, place] { select(place); };
    auto* layout = new QVBoxLayout(frame);
    layout->setContentsMargins(13, 9, 10, 10);
    layout->setSpacing(4);
    layout->addLayout(headOf(place, entry, step->info()));
    if (auto* came = whatCameOf(entry, outcome, chosen ? looked_ : QString())) layout->addWidget(came);
    if (outcome && outcome->facts.contains("offers"))
        for (const auto& offer : outcome->facts["offers"]) {
            auto* take = new WrappedButton(qs(offer["words"].get<std::string>()));
            take->setObjectName("stepOffer");
            connect(take, &QPushButton::clicked, this,
                    [this, place, params = offer["params"]] { setParams(place, params, {}); });
            layout->addWidget(take, 0, Qt::AlignLeft);
        }
    if (!chosen) return frame;
    if (!entry.on && !looked_.isEmpty()) {
        auto* take = button(tr("Take them out"), "main", "check");
        take->setObjectName("takeOut");
        connect(take, &QPushButton::clicked, this, [this, place] { turn(place, true); });
        layout->addWidget(take, 0, Qt::AlignLeft);
    }
    const EditingPlace where{session_.sheet(platform_.toStdString()),
                             session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model,
                             session_.snapshot(),
                             piece_.toStdString(),
                             [this] { return selectedInView_.asSelection(); },
                             [this](const QString& clip) { Q_EMIT clipAsked(clip); }};
    auto* editor = new FieldEditor(
        step->fields(), step->params(), [&](const fields::Field& field) { return step->isShown(field); },
        where);
    connect(editor, &FieldEditor::changed, this,
            [this, place](const QString& field, const nlohmann::json& value) {
                setParam(place, field.toStdString(), value, {});
            });
    layout->addWidget(editor);
    layout->addLayout(actionsOf(place, step->info()));
    return frame;
}

QLayout* StepsPanel::headOf(EntryPlace place, const recipe::Entry& entry, const steps::StepInfo& info) {
    auto* head = new QHBoxLayout;
    auto* name = headingLabel(qs(info.name), 2);
    name->setAttribute(Qt::WA_TransparentForMouseEvents);
    name->setToolTip(qs(info.help));
    head->addWidget(name, 1);
    auto* toggle = new QToolButton;
    toggle->setObjectName("toggle-" + qs(entry.step));
    toggle->setProperty("quiet", true);
    toggle->setText(entry.on ? tr("on") : tr("off"));
    toggle->setToolTip(entry.on ? tr("Turn the step off to compare") : tr("Turn the step on"));
    toggle->setStyleSheet(entry.on ? "font-weight: 600;" : "");
    connect(toggle, &QToolButton::clicked, this, [this, place, on = entry.on] { turn(place, !on); });
    head->addWidget(toggle);
    return head;
}

QWidget* StepsPanel::whatCameOf(const recipe::Entry& entry, const recipe::Outcome* outcome,
                                const QString& looked) {
    if (outcome && !outcome->problem.empty()) return textLabel(qs(outcome->problem), "bad");
    if (!entry.on) return textLabel(looked.isEmpty() ? tr("Passed over.") : looked, "dim");
    if (!outcome || outcome->notes.empty()) return nullptr;
    QString text;
    for (const auto& note : outcome->notes) text += (text.isEmpty() ? "" : "; ") + qs(note);
    if (outcome->seconds >= 0.05) text += tr(", in %1").arg(qs(showSeconds(outcome->seconds)));
    auto* note = textLabel(text, "dim");
    note->setAttribute(Qt::WA_TransparentForMouseEvents);
    return note;
}

QLayout* StepsPanel::actionsOf(EntryPlace place, const steps::StepInfo& info) {
    auto* actions = new QHBoxLayout;
    actions->setSpacing(2);
    actions->addWidget(textLabel(place.ofPiece ? tr("every platform") : tr("this platform"), "dim"), 1);
    const auto add = [&](const char* icon, const QString& tip, auto does) {
        auto* button = iconButton(icon, tip);
        connect(button, &QToolButton::clicked, this, does);
        actions->addWidget(button);
        return button;
    };
    add("arrow-up", tr("Run this step earlier"), [this, place] { moveBy(place, -1); });
    add("arrow-down", tr("Run this step later"), [this, place] { moveBy(place, 1); });
    add("layers",
        place.ofPiece ? tr("Use this step on this platform only") : tr("Use this step on every platform"),
        [this, place] { moveToOtherRecipe(place); });
    add("rotate-ccw", tr("Back to the step's usual values"), [this, place, id = std::string(info.id)] {
        setParams(place, steps::makeStep(id)->params(), {});
    })->setObjectName("resetStep");
    auto* remove = add("trash-2", tr("Remove this step"), [this, place, name = qs(info.name)] {
        selected_ = {};
        change(tr("remove %1").arg(name), place,
               [](recipe::Recipe& recipe, int i) { recipe.erase(recipe.begin() + i); });
    });
    remove->setObjectName("removeStep");
    return actions;
}

void StepsPanel::moveBy(EntryPlace place, int by) {
    const EntryPlace target{place.ofPiece, place.index + by};
    if (!entry(target)) return;
    change(tr("move a step"), place,
           [&](recipe::Recipe& recipe, int i) { std::swap(recipe[i], recipe[i + by]); });
    select(target);
}

void StepsPanel::moveToOtherRecipe(EntryPlace place) {
    const recipe::Entry* now = entry(place);
    if (!now) return;
    const recipe::Entry moved = *now;
    EntryPlace target{!place.ofPiece, 0};
    session_.editPiece(tr("move a step"), piece_, [&](project::Piece& piece) {
        auto& own = piece.recipe;
        auto& here = piece.setUpOn(platform_.toStdString()).recipe;
        auto& from = place.ofPiece ? own : here;
        from.erase(from.begin() + place.index);
        if (place.ofPiece) {
            here.insert(here.begin(), moved);
        } else {
            target.index = int(own.size());
            own.push_back(moved);
        }
    });
    selected_ = target;
    rebuild();
}

void StepsPanel::showOffers(const CrossingState& state) {
    layout_->addWidget(
        textLabel(tr("Nothing is done here yet. What you choose runs on every rebuild."), "dim"));
    for (const StepOffer& offer : stepOffers(stage_, state)) {
        const auto& info = steps::infoOf(offer.step);
        auto* frame = new ChoosableCard;
        frame->setObjectName("offer-" + qs(offer.step));
        frame->setAccessibleName(tr("Add %1").arg(qs(info.name)));
        frame->setCursor(Qt::PointingHandCursor);
        frame->chosen = [this, offer] { addOffered(offer); };
        auto* words = new QVBoxLayout(frame);
        words->setContentsMargins(13, 9, 12, 10);
        words->setSpacing(2);
        words->addWidget(headingLabel(qs(info.name), 2));
        words->addWidget(textLabel(qs(info.help), "dim"));
        QStringList mends;
        for (const auto& rule : offer.mends) mends << qs(rule.label);
        if (!mends.isEmpty())
            words->addWidget(textLabel(tr("Mends what is broken: %1").arg(mends.join(", ")), "bad"));
        for (QLabel* label : frame->findChildren<QLabel*>())
            label->setAttribute(Qt::WA_TransparentForMouseEvents);
        layout_->addWidget(frame);
    }
    layout_->addStretch(1);
}

void StepsPanel::addOffered(const StepOffer& offer) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    if (offer.mends.empty() || !sheet || state.kind != CrossingState::Kind::Ready) return add(offer.step);
    session_.jobs().start<nlohmann::json>(
        tr("Finding numbers for %1").arg(qs(steps::infoOf(offer.step).name)), this,
        [offer, model = state.evaluation.model, sheet](const Progress&) {
            return paramsFor(offer, model, *sheet);
        },
        [this, offer, id = std::tuple(piece_, platform_, stage_)](const nlohmann::json& params) {
            if (id == std::tuple(piece_, platform_, stage_)) add(offer.step, params);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

void StepsPanel::rebuild() {
    clearLayout(layout_);
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return;
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto all = places();
    if (all.empty()) return showOffers(state);
    layout_->addWidget(
        textLabel(tr("Steps run from top to bottom on every rebuild. Turn one off to compare."), "dim"));
    for (const EntryPlace& place : all) {
        const recipe::Entry* e = entry(place);
        const std::size_t at = place.within(*piece);
        const auto& outcomes = state.evaluation.outcomes;
        const bool known =
            state.kind == CrossingState::Kind::Ready && at < outcomes.size() && outcomes[at].step == e->step;
        layout_->addWidget(card(place, *e, known ? &outcomes[at] : nullptr));
    }
    auto* add = button(tr("Add a step…"), "dashed", "plus");
    add->setObjectName("addStep");
    auto* menu = new QMenu(add);
    for (const auto& step : steps::allSteps()) {
        if (step->info().stage != stage_) continue;
        auto* action = menu->addAction(qs(step->info().name));
        action->setToolTip(qs(step->info().help));
        connect(action, &QAction::triggered, this,
                [this, id = std::string(step->info().id)] { this->add(id); });
    }
    menu->setToolTipsVisible(true);
    connect(add, &QPushButton::clicked, menu,
            [add, menu] { menu->popup(add->mapToGlobal(QPoint(0, add->height()))); });
    layout_->addWidget(add);
    layout_->addStretch(1);
}

} // namespace zl::app
