#include "app/pages/clip_bar.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
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
    row->addWidget(which_, 1);
    facts_ = new ElidedLabel(QString());
    facts_->setProperty("dim", true);
    row->addWidget(facts_, 2);
    frame_ = textLabel({});
    frame_->setObjectName("clipFrame");
    frame_->setWordWrap(false);
    row->addWidget(frame_);
    rest_ = button(tr("Back to rest"), "quiet");
    rest_->setObjectName("clipRest");
    rest_->setToolTip(tr("Show the piece as it stands without a clip"));
    row->addWidget(rest_);
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setObjectName("clipSlider");
    slider_->setAccessibleName(tr("Frame of the clip"));
    layout->addWidget(slider_);
    hide();

    timer_.setInterval(16);
    connect(&timer_, &QTimer::timeout, this, &ClipBar::tick);
    connect(play_, &QPushButton::clicked, this, [this] { play(!isPlaying()); });
    connect(rest_, &QPushButton::clicked, this, &ClipBar::leave);
    connect(which_, &QComboBox::activated, this, [this](int index) {
        chosen_ = index;
        setSeconds(0);
    });
    connect(slider_, &QSlider::valueChanged, this, [this](int frame) {
        if (const Known* clip = now()) setSeconds(frame / clip->rate);
    });
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
    setVisible(!clips_.empty());
    if (clips_.empty()) leave();
    refresh();
}

void ClipBar::play(bool on) {
    if (!now() || on == isPlaying()) return;
    if (on) {
        if (!loop_->isChecked() && seconds_ >= now()->length) seconds_ = 0;
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
        return setSeconds(0);
    }
}

void ClipBar::setSeconds(double seconds) {
    const Known* clip = now();
    if (!clip) return;
    moving_ = true;
    seconds_ = std::clamp(seconds, 0.0, clip->length);
    refresh();
    Q_EMIT momentChanged();
}

void ClipBar::tick() {
    const Known* clip = now();
    if (!clip) return timer_.stop();
    double next = seconds_ + double(since_.restart()) / 1000 * speed_->currentData().toDouble();
    if (next > clip->length) {
        if (!loop_->isChecked() || !(clip->length > 0)) {
            timer_.stop();
            next = clip->length;
        } else {
            next = std::fmod(next, clip->length);
        }
    }
    setSeconds(next);
}

void ClipBar::refresh() {
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
    frame_->setText(moving_ ? tr("frame %1 of %2").arg(frame).arg(clip->frames()) : tr("at rest"));
    const QSignalBlocker quiet(slider_);
    slider_->setRange(0, clip->frames());
    slider_->setValue(frame);
}

} // namespace zl::app
