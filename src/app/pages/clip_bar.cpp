#include "app/pages/clip_bar.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/motion/attached.h"
#include "core/motion/posed.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QToolButton>

namespace zl::app {

namespace {

/// Frames a second that the keys stand on: the shortest way between two keys of any channel, at most 60.
double rateOf(const Clip& clip) {
    double least = 1.0 / 12;
    for (const Channel& channel : clip.channels)
        for (std::size_t k = 1; k < channel.times.size(); ++k)
            if (const double gap = double(channel.times[k]) - channel.times[k - 1]; gap > 1.0 / 61)
                least = std::min(least, gap);
    return std::clamp(std::round(1 / least), 1.0, 60.0);
}

constexpr double speeds[] = {0.25, 0.5, 1, 2};

} // namespace

ClipBar::ClipBar(QWidget* parent) : QFrame(parent) {
    setObjectName("clipBar");
    setAttribute(Qt::WA_StyledBackground);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(14, 8, 14, 10);
    layout->setSpacing(6);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    layout->addLayout(row);
    play_ = button(tr("Play"), "strong", "play");
    play_->setObjectName("playClip");
    play_->setToolTip(tr("Play or pause (Space)"));
    row->addWidget(play_);
    loop_ = new QToolButton;
    loop_->setObjectName("loopClip");
    loop_->setText(tr("Loop"));
    loop_->setToolTip(tr("Begin again at the end"));
    loop_->setCheckable(true);
    loop_->setChecked(true);
    loop_->setProperty("mode", true);
    row->addWidget(loop_);
    speed_ = new ChoiceBox;
    speed_->setObjectName("clipSpeed");
    speed_->setToolTip(tr("How fast it plays"));
    speed_->setMinimumContentsLength(4);
    for (const double speed : speeds) speed_->addItem(tr("%1×").arg(qs(showNumber(speed))), speed);
    speed_->setCurrentIndex(2);
    row->addWidget(speed_);
    which_ = new ChoiceBox;
    which_->setObjectName("whichClip");
    which_->setToolTip(tr("The clip that is played"));
    row->addWidget(which_, 2);
    facts_ = new ElidedLabel(QString());
    facts_->setProperty("dim", true);
    row->addWidget(facts_, 3);
    frame_ = textLabel({});
    frame_->setObjectName("clipFrame");
    frame_->setWordWrap(false);
    row->addWidget(frame_);
    rest_ = button(tr("Back to rest"), "quiet");
    rest_->setObjectName("clipRest");
    rest_->setToolTip(tr("Show the piece as it stands without a clip"));
    row->addWidget(rest_);
    layout->addLayout(laneRow());
    hide();

    timer_.setInterval(16);
    connect(&timer_, &QTimer::timeout, this, &ClipBar::tick);
    connect(play_, &QPushButton::clicked, this, [this] { play(!isPlaying()); });
    connect(rest_, &QPushButton::clicked, this, &ClipBar::leave);
    connect(which_, &QComboBox::activated, this, [this](int index) {
        chosen_ = index;
        lane_->setRange(0, 1);
        setSeconds(0);
        Q_EMIT curveAsked();
    });
    connect(slider_, &QSlider::valueChanged, this, [this](int frame) {
        if (const Known* clip = now()) setSeconds(frame / clip->rate);
    });
}

QLayout* ClipBar::laneRow() {
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    auto* along = new QVBoxLayout; // one above the other, so that a moment stands in one place
    along->setSpacing(2);
    row->addLayout(along, 1);
    lane_ = new CurveLane;
    along->addWidget(lane_);
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setObjectName("clipSlider");
    slider_->setAccessibleName(tr("Frame of the clip"));
    along->addWidget(slider_);
    beside_ = new QWidget;
    auto* beside = new QVBoxLayout(beside_);
    beside->setContentsMargins(0, 0, 0, 0);
    beside->setSpacing(6);
    whose_ = new ChoiceBox;
    whose_->setObjectName("curveOf");
    whose_->setToolTip(tr("Whose movement the lane shows"));
    whose_->setFixedWidth(150);
    beside->addWidget(whose_);
    trim_ = button(tr("Trim to this"), "quiet");
    trim_->setObjectName("trimToPart");
    trim_->setToolTip(tr("Add a step that keeps only what lies between the handles"));
    beside->addWidget(trim_);
    beside->addStretch(1);
    row->addWidget(beside_);
    connect(whose_, &QComboBox::activated, this, &ClipBar::curveAsked);
    connect(lane_, &CurveLane::pointed, this, [this](double share) {
        if (const Known* clip = now()) setSeconds(share * clip->length);
    });
    connect(lane_, &CurveLane::rangeChanged, this, [this] { refresh(); });
    connect(trim_, &QPushButton::clicked, this, [this] {
        const Known* clip = now();
        if (!clip) return;
        const double from = lane_->from() * clip->length, to = lane_->to() * clip->length;
        lane_->setRange(0, 1);
        Q_EMIT trimAsked(clip->name, from, to);
    });
    return row;
}

void ClipBar::resizeEvent(QResizeEvent* event) {
    QFrame::resizeEvent(event);
    // Beside the list of parts there is little room.
    constexpr int forAll = 680, forMost = 560;
    facts_->setVisible(width() > forAll);
    speed_->setVisible(width() > forMost);
    rest_->setText(width() > forMost ? tr("Back to rest") : tr("Rest"));
    refresh();
}

void ClipBar::setLaneShown(bool shown) {
    laneShown_ = shown;
    if (!shown) lane_->setRange(0, 1);
    refresh();
}

void ClipBar::showCurveOf(const QString& bone) {
    const int index = whose_->findData(bone);
    if (index < 0) return;
    whose_->setCurrentIndex(index);
    Q_EMIT curveAsked();
}

QString ClipBar::whose() const {
    return whose_->currentData().toString();
}

void ClipBar::showBones(const Model& model) {
    const QString was = whose();
    whose_->clear();
    whose_->addItem(tr("the whole"), QString());
    for (const int joint : motion::jointsOf(model)) {
        const QString name = qs(model.nodes[std::size_t(joint)].name);
        whose_->addItem(name, name);
    }
    whose_->setCurrentIndex(std::max(0, whose_->findData(was)));
    whose_->setEnabled(whose_->count() > 1);
}

const ClipBar::Known* ClipBar::now() const {
    return chosen_ >= 0 && chosen_ < int(clips_.size()) ? &clips_[std::size_t(chosen_)] : nullptr;
}

void ClipBar::show(const Model& model) {
    const QString was = now() ? now()->name : QString();
    clips_.clear();
    chosen_ = 0;
    for (const auto& clip : model.clips) {
        clips_.push_back({qs(clip->name), motion::lengthOf(*clip), rateOf(*clip), motion::keysOf(*clip)});
        if (clips_.back().name == was) chosen_ = int(clips_.size()) - 1;
    }
    which_->clear();
    for (const Known& clip : clips_) which_->addItem(clip.name);
    which_->setCurrentIndex(chosen_);
    if (!now() || now()->name != was) lane_->setRange(0, 1);
    showBones(model);
    setVisible(!clips_.empty());
    if (clips_.empty()) leave();
    refresh();
    Q_EMIT curveAsked();
}

void ClipBar::play(bool on) {
    if (!now() || on == isPlaying()) return;
    if (on) {
        const double begin = lane_->from() * now()->length, end = lane_->to() * now()->length;
        if (seconds_ < begin || (!loop_->isChecked() && seconds_ >= end)) seconds_ = begin;
        moving_ = true;
        since_.start();
        timer_.start();
    } else {
        timer_.stop();
    }
    refresh();
    Q_EMIT momentChanged();
}

void ClipBar::goTo(int frame) {
    if (const Known* clip = now()) setSeconds(std::clamp(frame, 0, clip->frames()) / clip->rate);
}

void ClipBar::leave() {
    timer_.stop();
    seconds_ = 0;
    if (!std::exchange(moving_, false)) return;
    refresh();
    Q_EMIT momentChanged();
}

void ClipBar::choose(const QString& name) {
    for (std::size_t c = 0; c < clips_.size(); ++c) {
        if (clips_[c].name != name) continue;
        timer_.stop();
        chosen_ = int(c);
        which_->setCurrentIndex(chosen_);
        lane_->setRange(0, 1);
        setSeconds(0);
        Q_EMIT curveAsked();
        return;
    }
}

void ClipBar::setSeconds(double seconds) {
    const Known* clip = now();
    if (!clip) return;
    moving_ = true;
    seconds_ = std::clamp(seconds, 0.0, clip->length);
    // Every change here has the whole window put together anew; while it plays, that is with the next pose.
    if (!isPlaying() || !refreshed_.isValid() || refreshed_.elapsed() > 300) refresh();
    Q_EMIT momentChanged();
}

void ClipBar::follow(bool heavy) {
    if (isPlaying() && (!heavy || !refreshed_.isValid() || refreshed_.elapsed() > 150)) refresh();
}

void ClipBar::tick() {
    const Known* clip = now();
    if (!clip) return timer_.stop();
    double next = seconds_ + double(since_.restart()) / 1000 * speed_->currentData().toDouble();
    const double begin = lane_->from() * clip->length, end = lane_->to() * clip->length;
    if (next > end) {
        if (!loop_->isChecked() || !(end > begin)) {
            timer_.stop();
            next = end;
        } else {
            next = begin + std::fmod(next - begin, end - begin);
        }
    }
    setSeconds(next);
}

void ClipBar::refresh() {
    refreshed_.start();
    const Known* clip = now();
    if (!clip) return;
    play_->setText(isPlaying() ? tr("Pause") : tr("Play"));
    play_->setIcon(Theme::instance().icon(isPlaying() ? "pause" : "play", tokens().onStrong));
    rest_->setEnabled(moving_);
    const QString keys = qs(showCount(long(clip->keys), "key", "keys"));
    facts_->setText(clip->length > 0
                        ? tr("%1 s · %2 a second · %3")
                              .arg(qs(showMeasure(clip->length)), qs(showNumber(clip->rate)), keys)
                        : tr("a pose · %1").arg(keys));
    const int frame = int(std::lround(seconds_ * clip->rate));
    const QString of = speed_->isHidden() ? tr("%1 of %2") : tr("frame %1 of %2"); // hidden for want of room
    frame_->setText(moving_ ? of.arg(frame).arg(clip->frames()) : tr("at rest"));
    lane_->setMoment(!moving_ ? -1 : clip->length > 0 ? seconds_ / clip->length : 0);
    for (QWidget* part : std::initializer_list<QWidget*>{lane_, beside_})
        part->setVisible(laneShown_ && clip->length > 0);
    trim_->setEnabled(lane_->from() > 0 || lane_->to() < 1);
    const QSignalBlocker quiet(slider_);
    slider_->setRange(0, clip->frames());
    slider_->setValue(frame);
}

} // namespace zl::app
