#include "app/surface/channel_strip.h"

#include "app/widgets/ui.h"

#include <QGridLayout>
#include <QLabel>
#include <QToolButton>

namespace zl::app {

namespace {

constexpr int besideWidth = 252;
constexpr const char* letters[] = {"R", "G", "B", "A"};

} // namespace

ChannelStrip::ChannelStrip(QWidget* parent) : QWidget(parent) {
    setObjectName("channelStrip");
    auto* column = new QVBoxLayout(this);
    column->setSpacing(6);
    name_ = headingLabel({}, 2);
    facts_ = textLabel({}, "dim");
    facts_->setObjectName("pictureFacts");
    column->addWidget(name_);
    column->addWidget(facts_);
    grid_ = new QGridLayout;
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(4);
    const QString names[] = {tr("Red"), tr("Green"), tr("Blue"), tr("Alpha")};
    for (int k = 0; k < 4; ++k) {
        auto* button = new QToolButton;
        button->setObjectName(QString("channel-") + letters[k]);
        button->setCheckable(true);
        button->setProperty("channel", true);
        button->setAccessibleName(names[k]);
        button->setToolTip(tr("%1 alone in grey; once more for all together").arg(names[k]));
        connect(button, &QToolButton::clicked, this, [this, k](bool on) { choose(on ? k : -1); });
        buttons_[std::size_t(k)] = button;
        holds_[std::size_t(k)] = textLabel({});
    }
    column->addLayout(grid_);
    numbers_ = textLabel({});
    numbers_->setObjectName("channelNumbers");
    column->addWidget(numbers_);
    column->addStretch(1);
    setBelow(false);
}

void ChannelStrip::setBelow(bool below) {
    if (below_ == below) return;
    below_ = below;
    setMinimumWidth(below ? 0 : besideWidth);
    setMaximumWidth(below ? QWIDGETSIZE_MAX : besideWidth);
    layout()->setContentsMargins(below ? 12 : 4, below ? 4 : 56, 12, 12);
    const int edge = below ? 72 : 114;
    for (int k = 0; k < 4; ++k) {
        auto* button = buttons_[std::size_t(k)];
        button->setIconSize({edge - 6, edge - 6});
        button->setFixedSize(edge, edge);
        grid_->removeWidget(button);
        grid_->removeWidget(holds_[std::size_t(k)]);
        const int row = below ? 0 : k / 2 * 2, column = below ? k : k % 2;
        grid_->addWidget(button, row, column, Qt::AlignLeft);
        grid_->addWidget(holds_[std::size_t(k)], row + 1, column, Qt::AlignTop);
    }
}

void ChannelStrip::show(std::shared_ptr<const PictureLevels> picture) {
    picture_ = std::move(picture);
    setVisible(picture_ != nullptr);
    if (!picture_) return;
    name_->setText(breakable(picture_->name));
    facts_->setText(breakable(picture_->facts));
    for (std::size_t k = 0; k < 4; ++k) {
        const bool there = k < 3 || picture_->hasAlpha;
        buttons_[k]->setIcon(there ? QIcon(QPixmap::fromImage(picture_->thumbs[k])) : QIcon());
        buttons_[k]->setEnabled(there);
        const QString& holds = picture_->holds[k];
        holds_[k]->setText(
            QString("<b>%1</b> %2").arg(letters[k], there ? breakable(holds.toHtmlEscaped()) : tr("none")));
    }
    choose(channel_ == 3 && !picture_->hasAlpha ? -1 : channel_);
}

void ChannelStrip::choose(int channel) {
    channel_ = channel;
    for (int k = 0; k < 4; ++k) buttons_[std::size_t(k)]->setChecked(k == channel);
    showFacts();
    Q_EMIT channelChosen(channel);
}

void ChannelStrip::showFacts() {
    if (!picture_) return;
    QString text;
    if (channel_ >= 0) {
        const QString& holds = picture_->holds[std::size_t(channel_)];
        text = QString("<b>%1</b>%2<br>%3")
                   .arg(letters[channel_], holds.isEmpty() ? QString() : " · " + holds.toHtmlEscaped(),
                        picture_->channelFacts(channel_));
    } else {
        const QString remark = picture_->remark();
        text = remark.isEmpty() ? tr("Choose a channel to see it alone, with its numbers.")
                                : remark.left(1).toUpper() + remark.mid(1) + ".";
    }
    numbers_->setText(text);
}

} // namespace zl::app
