#include "app/pages/face_card.h"

#include "app/qt_text.h"
#include "app/widgets/look_pad.h"
#include "app/widgets/slider_rows.h"
#include "app/widgets/ui.h"

#include "core/model/avatar.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QToolButton>

#include <cmath>
#include <numbers>

namespace zl::app {

namespace {

constexpr double aside = 60, upward = 40; ///< degrees that the pad's edges stand for
constexpr double everySeconds = 2.6, shutSeconds = 0.3;

} // namespace

FaceCard::FaceCard(QWidget* parent) : SideCard(parent) {
    setObjectName("faceCard");
    addHead(tr("Its face"));
    layout_->addWidget(textLabel(tr("Only tried here; nothing of it is delivered."), "dim"));
    pad_ = new LookPad;
    pad_->setObjectName("lookPad");
    layout_->addWidget(pad_);
    rows_ = new SliderRows;
    layout_->addWidget(rows_);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    blinks_ = new QToolButton;
    blinks_->setObjectName("faceBlinks");
    blinks_->setText(tr("Blink"));
    blinks_->setToolTip(tr("Lids come down every few seconds"));
    blinks_->setCheckable(true);
    blinks_->setProperty("mode", true);
    row->addWidget(blinks_);
    auto* rest = button(tr("Plain face"), "quiet");
    rest->setObjectName("plainFace");
    row->addWidget(rest);
    row->addStretch(1);
    layout_->addLayout(row);
    hide();
    timer_.setInterval(33);
    connect(this, &SideCard::closed, this, &FaceCard::plain);
    connect(pad_, &LookPad::moved, this, [this](const QPointF& point) {
        // The viewer's right is the figure's left.
        made_.look = {point.x() * aside, point.y() * upward};
        Q_EMIT faceChanged();
    });
    connect(rows_, &SliderRows::moved, this, [this](const QString& id, double value) {
        made_.expressions[id.toStdString()] = value;
        Q_EMIT faceChanged();
    });
    connect(rest, &QPushButton::clicked, this, &FaceCard::plain);
    connect(blinks_, &QToolButton::toggled, this, [this](bool on) {
        lids_ = 0;
        since_.start();
        on ? timer_.start() : timer_.stop();
        Q_EMIT faceChanged();
    });
    connect(&timer_, &QTimer::timeout, this, &FaceCard::blink);
}

void FaceCard::show(const Model& model) {
    known_ = model.avatar != nullptr;
    if (!known_) hide();
    if (!known_) {
        made_ = {};
        return blinks_->setChecked(false);
    }
    std::vector<SliderRows::Row> rows;
    std::map<std::string, double> kept;
    for (const Expression& e : model.avatar->expressions) {
        const auto found = made_.expressions.find(e.name);
        const double much = found == made_.expressions.end() ? 0 : found->second;
        if (much > 0) kept[e.name] = much;
        rows.push_back({qs(e.name), qs(e.name), much});
    }
    made_.expressions = std::move(kept);
    rows_->show(rows);
    blinks_->setEnabled(model.avatar->expression("blink") != nullptr);
    if (!blinks_->isEnabled()) blinks_->setChecked(false);
}

std::optional<avatar::Face> FaceCard::face() const {
    if (!known_) return std::nullopt;
    avatar::Face out = made_;
    std::erase_if(out.expressions, [](const auto& one) { return one.second <= 0; });
    if (lids_ > 0) out.expressions["blink"] = std::max(out.expressions["blink"], lids_);
    if (out == avatar::Face{}) return std::nullopt;
    return out;
}

void FaceCard::blink() {
    const double at = std::fmod(double(since_.elapsed()) / 1000, everySeconds);
    const double now = at < shutSeconds ? std::sin(at / shutSeconds * std::numbers::pi) : 0;
    if (now == lids_) return;
    lids_ = now;
    Q_EMIT faceChanged();
}

void FaceCard::plain() {
    for (auto& [name, much] : made_.expressions) rows_->set(qs(name), 0);
    made_ = {};
    blinks_->setChecked(false);
    pad_->setPoint({0, 0});
    Q_EMIT faceChanged();
}

} // namespace zl::app
