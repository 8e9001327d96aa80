#include "app/pages/sizes_mode.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/units.h"
#include "core/geometry/world.h"
#include "core/model/add_model.h"

#include <glm/gtc/matrix_transform.hpp>

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>

namespace zl::app {

namespace {

constexpr std::size_t mostRows = 60;
constexpr int steps = 100; ///< of the slider

/// What both have and only one way of counting can show.
QString alikeIn(const geometry::TwinReport& report) {
    const bool uvs = std::ranges::all_of(report.objects, &geometry::TwinObject::uvs),
               weights = std::ranges::all_of(report.objects, &geometry::TwinObject::weights);
    return uvs && weights ? QObject::tr("Order, triangles, UVs and weights are alike.")
           : uvs          ? QObject::tr("Order, triangles and UVs are alike; weights differ.")
           : weights      ? QObject::tr("Order, triangles and weights are alike; UVs differ.")
                          : QObject::tr("Order and triangles are alike; UVs and weights differ.");
}

} // namespace

void SizesCard::show(const geometry::TwinReport& report, const std::array<std::string, 2>& sizes,
                     const std::vector<std::string>& homeless) {
    empty();
    setObjectName("sizes");
    addHead(tr("Both sizes"));
    layout_->addWidget(
        textLabel(tr("One recipe runs on both. What is picked on one is picked on the other."), "dim"));
    auto* table = new QGridLayout;
    table->setHorizontalSpacing(10);
    table->setVerticalSpacing(5);
    table->setColumnStretch(0, 1);
    const auto right = [&](const QString& text, const char* tone, int row, int column) {
        auto* label = textLabel(text, tone);
        label->setWordWrap(false);
        table->addWidget(label, row, column, Qt::AlignRight | Qt::AlignVCenter);
    };
    table->addWidget(textLabel(tr("corners"), "dim"), 0, 0);
    for (int size = 0; size < 2; ++size) right(qs(sizes[std::size_t(size)]), "dim", 0, size + 1);
    for (std::size_t i = 0; i < std::min(report.objects.size(), mostRows); ++i) {
        const geometry::TwinObject& object = report.objects[i];
        const int row = int(i) + 1;
        table->addWidget(new ElidedLabel(qs(object.name)), row, 0);
        for (int size = 0; size < 2; ++size)
            right(object.order[std::size_t(size)] < 0
                      ? tr("none")
                      : qs(showNumber(double(object.corners[std::size_t(size)]), 0)),
                  nullptr, row, size + 1);
        if (object.isEqual()) {
            right(QString(QChar(0x2713)), "good", row, 3);
            continue;
        }
        auto* where = button(tr("where?"), "quiet");
        where->setObjectName(QString("sizesDiffer-%1").arg(i));
        where->setToolTip(tr("Light the first difference in both"));
        connect(where, &QPushButton::clicked, this, [this, i] { Q_EMIT differenceAsked(int(i)); });
        table->addWidget(where, row, 3);
    }
    layout_->addLayout(table);
    if (report.objects.size() > mostRows)
        layout_->addWidget(textLabel(tr("and %1 more").arg(report.objects.size() - mostRows), "dim"));
    auto* verdict =
        report.equal ? textLabel(alikeIn(report), "good") : textLabel(qs(report.why(sizes)) + ".", "bad");
    verdict->setObjectName("sizesVerdict");
    layout_->addWidget(verdict);
    for (const std::string& name : homeless) {
        layout_->addWidget(
            textLabel(tr("\"%1\" was chosen on %2 and does not hold on %3, which has other triangles.")
                          .arg(qs(name), qs(sizes[0]), qs(sizes[1])),
                      "warn"));
        auto* carry = button(tr("Carry it over by nearest surface"), nullptr, "wand-sparkles");
        carry->setObjectName("carryOver-" + qs(name));
        carry->setToolTip(tr("A guess that you look at before it is kept"));
        connect(carry, &QPushButton::clicked, this, [this, name] { Q_EMIT carryAsked(name); });
        layout_->addWidget(carry, 0, Qt::AlignLeft);
    }
    setVisible(true);
}

void SizesCard::showGuess(const std::string& name, const selection::CarriedOver& guess,
                          const std::array<std::string, 2>& sizes) {
    empty();
    setObjectName("sizes");
    addHead(tr("\"%1\" carried over").arg(qs(name)));
    auto* certain = headingLabel(tr("%1 % certain").arg(std::lround(100 * guess.certain)), 2);
    certain->setObjectName("guessCertain");
    layout_->addWidget(certain);
    layout_->addWidget(
        textLabel(tr("A guess by nearest surface, lit in both: %1 in %2, %3 in %4. Look at its edge all "
                     "around before you keep it.")
                      .arg(qs(showCount(long(guess.onFirst.count()), "face", "faces")), qs(sizes[0]),
                           qs(showCount(long(guess.onSecond.count()), "face", "faces")), qs(sizes[1])),
                  "dim"));
    auto* row = new QHBoxLayout;
    for (const bool keeps : {true, false}) {
        auto* one = button(keeps ? tr("Keep it") : tr("Not so"), keeps ? "main" : nullptr);
        one->setObjectName(keeps ? "keepGuess" : "dropGuess");
        connect(one, &QPushButton::clicked, this, [this, keeps] { Q_EMIT guessTaken(keeps); });
        row->addWidget(one);
    }
    row->addStretch(1);
    layout_->addLayout(row);
    setVisible(true);
}

SizesBar::SizesBar(QWidget* parent) : QFrame(parent) {
    setObjectName("clipBar"); // looks as the bar of clips does
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 8, 14, 10);
    row->setSpacing(12);
    first_ = textLabel({});
    second_ = textLabel({});
    for (QLabel* label : {first_, second_}) label->setWordWrap(false);
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setObjectName("sizesSlider");
    slider_->setAccessibleName(tr("Blend between the sizes"));
    slider_->setToolTip(tr("How the one in the middle is blended, as the game does it"));
    slider_->setRange(0, steps);
    slider_->setValue(steps / 2);
    row->addWidget(first_);
    row->addWidget(slider_, 1);
    row->addWidget(second_);
    connect(slider_, &QSlider::valueChanged, this, &SizesBar::shareChanged);
    hide();
}

void SizesBar::setSizes(const QString& first, const QString& second) {
    first_->setText(first);
    second_->setText(second);
}

double SizesBar::share() const {
    return double(slider_->value()) / steps;
}

SizesMode::SizesMode(Session& session, ModelView& view, WorkbenchScenes& scenes, WorkbenchHands& hands,
                     SizesCard& card, SizesBar& bar, QObject* parent)
    : QObject(parent), session_(session), view_(view), scenes_(scenes), hands_(hands), card_(card),
      bar_(bar) {
    connect(&bar_, &SizesBar::shareChanged, this, [this] { showSizes(false); });
    connect(&card_, &SizesCard::differenceAsked, this, &SizesMode::lightDifference);
    connect(&card_, &SizesCard::carryAsked, this, &SizesMode::carryOver);
    connect(&card_, &SizesCard::guessTaken, this, &SizesMode::endGuess);
    connect(&scenes_, &WorkbenchScenes::shapesShown, this, [this] {
        if (on_ && guess_) showGuess();
    });
    connect(&session_, &Session::crossingChanged, this,
            [this](const QString& piece, const QString& platform) {
                if (piece == piece_ && platform == platform_) rebuild(false);
            });
}

const CrossingState& SizesMode::state() const {
    return session_.state(piece_.toStdString(), platform_.toStdString());
}

void SizesMode::open(const QString& piece, const QString& platform) {
    piece_ = piece, platform_ = platform;
}

void SizesMode::setOn(bool on) {
    if (on_ == on) return;
    on_ = on;
    hands_.setOn(!on);
    view_.setHighlight({}, {});
    guess_.reset();
    if (on) {
        view_.camera().yaw = 0, view_.camera().pitch = 0.1; // both from ahead
        return rebuild(true);
    }
    view_.setEchoes({});
    card_.hide();
    bar_.hide();
    scenes_.showInstead(std::nullopt);
}

void SizesMode::rebuild(bool frame) {
    const CrossingState& now = state();
    if (!on_ || now.kind != CrossingState::Kind::Ready || now.others.empty()) return;
    const Model &first = now.evaluation.model, &second = now.others[0].evaluation.model;
    const std::array sizes{now.size.empty() ? std::string("first") : now.size, now.others[0].size};
    report_ = geometry::comparedTwins(first, second);
    guess_.reset();
    card_.show(report_, sizes, homeless());
    bar_.setSizes(qs(sizes[0]), qs(sizes[1]));
    showSizes(frame);
}

void SizesMode::showSizes(bool frame) {
    const CrossingState& now = state();
    if (!on_ || guess_ || now.kind != CrossingState::Kind::Ready || now.others.empty()) return;
    const Model &first = now.evaluation.model, &second = now.others[0].evaluation.model;
    const double wide =
        std::max({geometry::worldBounds(first).size().x, geometry::worldBounds(second).size().x, 1e-6});
    const auto aside = [&](double by) {
        return glm::translate(glm::dmat4(1.0), {by * 1.3 * wide, 0.0, 0.0});
    };
    Model shown = first;
    shown.clips.clear();
    shown.colliders.clear();
    shown.placement = aside(-1) * shown.placement;
    std::map<int, int> echoes;
    const auto add = [&](const Model& model, const std::string& name, double by, int size) {
        const int from = addModel(shown, model, name, -1, aside(by));
        for (const geometry::TwinObject& object : report_.objects)
            if (object.isInBoth() && object.isEqual())
                echoes[from + 1 + object.node[std::size_t(size)]] = object.node[0];
        return from + 1;
    };
    const bool blends = std::ranges::any_of(report_.objects, &geometry::TwinObject::blends);
    bar_.setVisible(blends);
    if (blends) add(geometry::blendedTwins(first, second, report_, bar_.share()), "between", 0, 0);
    broadFirst_ = add(second, now.others[0].size, 1, 1);
    view_.setEchoes(std::move(echoes));
    view_.setColliders({});
    scenes_.showInstead(std::move(shown), frame);
}

void SizesMode::lightDifference(int object) {
    if (object < 0 || std::size_t(object) >= report_.objects.size()) return;
    const geometry::TwinObject& one = report_.objects[std::size_t(object)];
    LitFaces lit;
    const std::array nodes{one.node[0], one.node[1] < 0 ? -1 : broadFirst_ + one.node[1]};
    for (std::size_t size = 0; size < 2; ++size) {
        if (nodes[size] < 0) continue;
        if (one.firstDifference && *one.firstDifference < one.triangles[size])
            lit.faces.push_back({nodes[size], *one.firstDifference});
        else
            lit.nodes.insert(nodes[size]);
    }
    view_.setHighlight(lit, qs(one.name));
}

SizesMode::Both SizesMode::whereUsed(const std::string& selection) const {
    const CrossingState& now = state();
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto recipe = recipeFor(*piece, platform_.toStdString());
    const std::string use = jsonText(nlohmann::json{{"named", selection}});
    std::size_t entry = 0; // what comes before it has made both
    while (entry < recipe.size() && jsonText(recipe[entry].params).find(use) == std::string::npos) ++entry;
    const auto before = [&](const Model& source, const recipe::Evaluation& evaluation) {
        return entry == 0 || evaluation.after.empty()
                   ? &source
                   : &evaluation.after[std::min(entry, evaluation.after.size()) - 1];
    };
    return {before(now.source, now.evaluation), before(now.others[0].source, now.others[0].evaluation)};
}

std::vector<std::string> SizesMode::homeless() const {
    std::vector<std::string> out;
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece || report_.equal) return out;
    for (const project::KeptSelection& kept : piece->selections) {
        const Both both = whereUsed(kept.name);
        const auto holdsOn = [&](const Model& model) {
            try {
                return selection::chosen(model, kept.selection).count() > 0;
            } catch (const Error&) {
                return false; // for a reason that the step gives
            }
        };
        if (holdsOn(*both.first) && !holdsOn(*both.second)) out.push_back(kept.name);
    }
    return out;
}

void SizesMode::carryOver(const std::string& selection) {
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return;
    const auto kept = std::ranges::find(piece->selections, selection, &project::KeptSelection::name);
    if (kept == piece->selections.end()) return;
    const Both both = whereUsed(selection);
    session_.jobs().start<selection::CarriedOver>(
        tr("Carrying \"%1\" over").arg(qs(selection)), this,
        [what = kept->selection, first = *both.first, second = *both.second](const Progress&) {
            return selection::carriedOver(what, first, second);
        },
        [this, selection, first = *both.first, second = *both.second](selection::CarriedOver guess) {
            if (!on_) return;
            const double wide = std::max(
                {geometry::worldBounds(first).size().x, geometry::worldBounds(second).size().x, 1e-6});
            const auto aside = [&](double by) {
                return glm::translate(glm::dmat4(1.0), {by * 0.65 * wide, 0.0, 0.0});
            };
            Model shown = first;
            shown.clips.clear(), shown.colliders.clear();
            shown.placement = aside(-1) * shown.placement;
            const int from = addModel(shown, second, state().others[0].size, -1, aside(1));
            guess_ = {selection, std::move(guess), from + 1};
            card_.showGuess(selection, guess_->guess, {state().size, state().others[0].size});
            bar_.hide();
            view_.setEchoes({});
            scenes_.showInstead(std::move(shown), true);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

void SizesMode::showGuess() {
    LitFaces lit;
    const auto add = [&](const selection::Chosen& chosen, int from) {
        for (std::size_t n = 0; n < chosen.faces.size(); ++n)
            for (const std::uint32_t face : chosen.trianglesOf(n, true))
                lit.faces.push_back({from + int(n), face});
    };
    add(guess_->guess.onFirst, 0);
    add(guess_->guess.onSecond, guess_->secondFirst);
    view_.setHighlight(lit, qs(guess_->name));
}

void SizesMode::endGuess(bool keeps) {
    if (!guess_) return;
    const Guessed taken = std::move(*guess_);
    guess_.reset();
    view_.setHighlight({}, {});
    if (!keeps) return rebuild(true);
    session_.editPiece(tr("carry \"%1\" over").arg(qs(taken.name)), piece_, [&](project::Piece& piece) {
        for (auto& kept : piece.selections)
            if (kept.name == taken.name) kept.selection = taken.guess.selection;
    });
}

} // namespace zl::app
