#include "app/pages/contact_mode.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/widgets/flow_row.h"
#include "app/widgets/ui.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QSlider>
#include <QToolButton>

namespace zl::app {

namespace {

constexpr auto surfaceStep = "surface-kind";

/// Whether two models are of the same meshes in the same places, and so are their bodies. One of them is
/// held by somebody, so that addresses tell.
bool sameShapes(const Model& a, const Model& b) {
    return a.placement == b.placement && a.meshes == b.meshes &&
           std::ranges::equal(a.nodes, b.nodes,
                              [](const Node& x, const Node& y) {
                                  return x.mesh == y.mesh && x.parent == y.parent && x.local == y.local;
                              }) &&
           std::ranges::equal(a.colliders, b.colliders, [](const Collider& x, const Collider& y) {
               return x.mesh == y.mesh && x.placement == y.placement;
           });
}

} // namespace

ContactMode::ContactMode(Session& session, ModelView& view, FlowRow& row, const MakeSwitch& make,
                         QObject* parent)
    : QObject(parent), session_(session), view_(view) {
    surfaces_ =
        make("surfaces", tr("Surfaces"), tr("What faces are made of, each kind in its colour and hatch"),
             true, [this](bool) { showSurfaces(); });
    differs_ = make("differs", tr("Differs"),
                    tr("Only what its body and the piece differ by: solid and not seen, or seen and passed "
                       "through"),
                    false, [this](bool on) {
                        if (on && view_.tool() == &probing_) view_.setTool(nullptr);
                        lookAgain();
                    });
    probe_ =
        make("probe", tr("Probe"), tr("Bodies alone, with balls, arrows and figures sent at them by a click"),
             false, [this](bool on) {
                 if (on || view_.tool() == &probing_) view_.setTool(on ? &probing_ : nullptr);
             });
    sends_ = new ChoiceBox;
    sends_->setObjectName("mode-probes");
    sends_->setAccessibleName(tr("What is sent"));
    sends_->addItems({tr("a ball"), tr("an arrow"), tr("somebody walking")});
    connect(sends_, &QComboBox::activated, this,
            [this](int index) { probing_.setSends(ProbeTool::Sends(index)); });
    connect(&view_, &ModelView::toolChanged, this, [this] {
        const bool probing = view_.tool() == &probing_;
        probe_->setChecked(probing);
        sends_->setVisible(probing);
        if (probing && differs_->isChecked()) differs_->setChecked(false);
        lookAgain();
    });
    apart_ = new QWidget;
    apart_->setObjectName("mode-plate");
    apart_->setAttribute(Qt::WA_StyledBackground);
    auto* layout = new QHBoxLayout(apart_);
    layout->setContentsMargins(10, 0, 10, 0);
    layout->addWidget(textLabel(tr("apart"), "dim"));
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setObjectName("slide-apart");
    slider_->setAccessibleName(tr("Pieces apart"));
    slider_->setToolTip(tr("Draws the pieces of the body away from one another"));
    slider_->setRange(0, 100);
    slider_->setFixedWidth(90);
    connect(slider_, &QSlider::valueChanged, this, [this] { lookAgain(); });
    layout->addWidget(slider_);
    for (QWidget* one : std::initializer_list<QWidget*>{surfaces_, differs_, probe_, sends_, apart_})
        one->hide(), row.add(one);
}

void ContactMode::showBodies(const std::vector<Collider>& bodies, double figureMetres) {
    several_ = bodies.size() > 1, has_ = !bodies.empty();
    view_.setColliders(bodies);
    probing_.setBodies(bodies, figureMetres);
}

void ContactMode::refresh(const QString& piece, const QString& platform, bool here) {
    piece_ = piece, platform_ = platform, here_ = here;
    const auto sheet = session_.sheet(platform.toStdString());
    surfaces_->setVisible(here_ && sheet && !sheet->touch.surfaces.empty());
    differs_->setVisible(here_ && has_);
    probe_->setVisible(here_);
    if (!here_ && view_.tool() == &probing_) view_.setTool(nullptr);
    lookAgain();
}

void ContactMode::lookAgain() {
    const bool probing = view_.tool() == &probing_, differs = here_ && has_ && differs_->isChecked();
    const bool apart = here_ && several_ && !differs && !probing; // what is sent meets them where they are
    apart_->setVisible(apart);
    view_.setBodiesApart(apart ? float(slider_->value()) / 50 : 0); // twice as far at most
    view_.setSeeThrough(probing ? 0.3f : 1);
    surfaces_->setEnabled(!differs && !probing);
    showSurfaces();
    showDifference();
}

void ContactMode::paint(const selection::Selection& faces, const std::string& kind) {
    const auto sheet = session_.sheet(platform_.toStdString());
    const auto* known = sheet ? sheet->touch.surface(kind) : nullptr;
    if (!known || faces.empty()) return;
    session_.editCrossing(
        tr("%1 on %2").arg(qs(known->word), piece_), piece_, platform_, [&](project::Crossing& crossing) {
            recipe::Recipe& recipe = crossing.recipe;
            const int last = recipe::lastOf(recipe, surfaceStep);
            if (last >= 0) {
                auto& params = recipe[std::size_t(last)].params;
                params = steps::makeStep(surfaceStep, params)->params(); // with those that are as usual
                selection::Selection before = selection::fromJson(params["faces"]);
                if (params["by"] == "faces" && params["kind"] == kind && !before.empty()) {
                    before.terms.insert(before.terms.end(), faces.terms.begin(), faces.terms.end());
                    params["faces"] = selection::toJson(before);
                    return;
                }
            }
            recipe::Entry entry{
                surfaceStep, true, {{"by", "faces"}, {"faces", selection::toJson(faces)}, {"kind", kind}}};
            entry.params = steps::makeStep(entry.step, entry.params)->params();
            if (last < 0)
                recipe::insertInOrder(recipe, std::move(entry));
            else
                recipe.insert(recipe.begin() + last + 1, std::move(entry));
        });
}

void ContactMode::showSurfaces() {
    SurfacePaint paint;
    const auto sheet = session_.sheet(platform_.toStdString());
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    // Probing and comparing look at bodies.
    const bool wanted =
        here_ && surfaces_->isChecked() && view_.tool() != &probing_ && !differs_->isChecked();
    if (wanted && sheet && state.kind == CrossingState::Kind::Ready)
        paint.set(state.evaluation.model, sheet->touch);
    view_.setSurfaces(std::move(paint));
}

void ContactMode::showDifference() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (!here_ || !has_ || !differs_->isChecked() || state.kind != CrossingState::Kind::Ready)
        return view_.setDifference(nullptr);
    const Model& model = state.evaluation.model;
    if (sameShapes(compared_, model)) {
        if (!comparing_) view_.setDifference(difference_);
        return;
    }
    if (std::exchange(comparing_, true)) return; // the next look comes when this one is done
    compared_ = model;
    session_.jobs().start<std::shared_ptr<const BodyDifference>>(
        tr("Comparing body and piece"), this,
        [model](const Progress& progress) { return bodyDifference(model, progress); },
        [this](std::shared_ptr<const BodyDifference> made) {
            comparing_ = false;
            difference_ = std::move(made);
            if (!difference_)
                Q_EMIT session_.said(tr("The piece encloses nothing, so its body cannot be held against it"));
            showDifference();
        },
        [this](const QString& problem) {
            comparing_ = false;
            difference_ = nullptr;
            Q_EMIT session_.said(problem);
        },
        Urgency::Shown,
        [this] {
            comparing_ = false;
            compared_ = {};
        });
}

} // namespace zl::app
