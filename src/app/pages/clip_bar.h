#pragma once
#include "app/pages/curve_lane.h"

#include "core/model/model.h"

#include <QElapsedTimer>
#include <QFrame>
#include <QTimer>

class QComboBox;
class QLabel;
class QPushButton;
class QSlider;
class QToolButton;

namespace zl::app {

/// Plays a piece's clips: which one, how fast, from where, and which part; with a lane of how it moves. There
/// only where there are clips.
class ClipBar : public QFrame {
    Q_OBJECT
public:
    explicit ClipBar(QWidget* parent = nullptr);

    /// Takes up a model's clips; the chosen one stays chosen by its name. Hides without clips.
    void show(const Model& model);
    /// The clip and its moment in seconds that are to be seen; -1 while the piece stands at rest.
    int clip() const { return moving_ ? chosen_ : -1; }
    double seconds() const { return seconds_; }
    int chosen() const { return clips_.empty() ? -1 : chosen_; }
    /// The bone whose movement the lane shows; empty for the whole.
    QString whose() const;
    CurveLane& lane() { return *lane_; }
    void setLaneShown(bool shown);
    void showCurveOf(const QString& bone);
    bool isPlaying() const { return timer_.isActive(); }
    void play(bool on);
    /// To a frame of the chosen clip, counted from 0.
    void goTo(int frame);
    void leave(); ///< back to rest
    /// To the beginning of the clip of this name, where there is one.
    void choose(const QString& name);
    /// The view is about to show another pose: what the bar shows goes with it, seldom for a `heavy` piece.
    void follow(bool heavy);

Q_SIGNALS:
    /// Another clip, moment, or rest is to be seen.
    void momentChanged();
    /// The lane is to show another clip or bone.
    void curveAsked();
    /// The part between the handles is to become the whole clip; seconds.
    void trimAsked(const QString& clip, double from, double to);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    struct Known {
        QString name;
        double length = 0, rate = 30; ///< seconds; frames a second
        std::size_t keys = 0;
        int frames() const { return std::max(1, int(std::lround(length * rate))); }
    };
    const Known* now() const;
    QLayout* laneRow();
    void showBones(const Model& model);
    void tick();
    void refresh();
    void setSeconds(double seconds);

    std::vector<Known> clips_;
    int chosen_ = 0;
    double seconds_ = 0;
    bool moving_ = false, laneShown_ = false;
    QTimer timer_;
    QElapsedTimer since_;     ///< the last tick
    QElapsedTimer refreshed_; ///< since what it shows was
    QPushButton *play_, *rest_;
    QToolButton* loop_;
    QComboBox *which_, *speed_, *whose_;
    QWidget* beside_; ///< the lane: what it shows and what is done with the part
    CurveLane* lane_;
    QPushButton* trim_;
    QLabel *facts_, *frame_;
    QSlider* slider_;
};

} // namespace zl::app
