#pragma once
#include "app/surface/picture_levels.h"

#include <QWidget>

class QGridLayout;
class QLabel;
class QToolButton;

namespace zl::app {

/// What a picture is, its four channels side by side as grey, and the numbers of the one that is chosen.
class ChannelStrip : public QWidget {
    Q_OBJECT
public:
    explicit ChannelStrip(QWidget* parent = nullptr);
    /// Null for no picture.
    void show(std::shared_ptr<const PictureLevels> picture);
    /// The channels in one row, for a place below the picture; else two by two, for one beside it.
    void setBelow(bool below);
    std::shared_ptr<const PictureLevels> picture() const { return picture_; }

Q_SIGNALS:
    void channelChosen(int channel); ///< -1: all together again

private:
    void choose(int channel);
    void showFacts();

    std::shared_ptr<const PictureLevels> picture_;
    QLabel *name_, *facts_, *numbers_;
    QGridLayout* grid_;
    std::optional<bool> below_; ///< as it is laid out; not yet, at first
    std::array<QToolButton*, 4> buttons_{};
    std::array<QLabel*, 4> holds_{};
    int channel_ = -1;
};

} // namespace zl::app
