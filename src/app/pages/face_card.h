#pragma once
#include "app/pages/cards.h"

#include "core/avatar/face.h"

#include <QElapsedTimer>
#include <QTimer>

class QToolButton;

namespace zl::app {

class LookPad;
class SliderRows;

/// Tries an avatar's faces: all expressions at once, where its eyes go, and blinking. There only for a piece
/// that is set up as an avatar.
class FaceCard : public SideCard {
    Q_OBJECT
public:
    explicit FaceCard(QWidget* parent = nullptr);

    /// Takes up a model's expressions; hides without a set-up.
    void show(const Model& model);
    /// Back to a plain face that neither looks nor blinks.
    void plain();
    /// What is to be seen; nothing while the face is plain and still.
    std::optional<avatar::Face> face() const;

Q_SIGNALS:
    void faceChanged();

private:
    void blink();

    avatar::Face made_;
    bool known_ = false;
    double lids_ = 0; ///< while it blinks by itself
    LookPad* pad_;
    SliderRows* rows_;
    QToolButton* blinks_;
    QTimer timer_;
    QElapsedTimer since_;
};

} // namespace zl::app
