#pragma once
#include "app/hands/step_hands.h"
#include "app/pages/plan_offer.h"
#include "app/pages/steps_panel.h"
#include "app/view/model_view.h"

#include <QObject>
#include <QTimer>

namespace zl::app {

/// What can be dragged in the workbench's view: the handles of the chosen step, and the arrow that says where
/// the front points. A drag is one step of undo.
class WorkbenchHands : public QObject {
    Q_OBJECT
public:
    WorkbenchHands(Session& session, ModelView& view, StepsPanel& steps, PlanOffer& offer, QObject* parent);

    void open(const QString& piece, const QString& platform);
    /// Off while something else stands in the view than the piece where it is.
    void setOn(bool on) { on_ = on; }
    /// The moment of a clip that the view shows; -1 for none.
    struct Moment {
        int clip = -1;
        double seconds = 0;
    };
    std::function<Moment()> moment;
    /// Puts the handles up anew that the stage and the chosen step have.
    void refresh(steps::Stage stage);

Q_SIGNALS:
    /// A drag that was only looked at ended; the arrow is to stand again where it is known or guessed.
    void previewEnded();
    /// What the chosen step does is seen in this clip.
    void clipAsked(const QString& name);

private:
    void drag(const QString& id, const HandleMove& move);
    void preview(const QString& id, const HandleMove& move);
    void turnFront(const HandleMove& move);
    /// The chosen step's surroundings, or those of the entry at `place`; nothing while they are worked out.
    std::optional<HandsPlace> placeOf(EntryPlace place) const;
    const StepHands* hands() const;
    /// The last step that says where the front points, if there is one.
    std::optional<EntryPlace> headingStep() const;

    Session& session_;
    ModelView& view_;
    StepsPanel& steps_;
    PlanOffer& offer_;
    QString piece_, platform_;
    steps::Stage stage_ = steps::Stage::Gather;
    QTimer looked_;                   ///< runs while the view is turned
    std::optional<HandsPlace> start_; ///< what things were when the handle that is held was pressed
    QString clipShown_;               ///< that was asked for last
    bool on_ = true;
    int drags_ = 0; ///< counts them, so that each is a step of undo
};

} // namespace zl::app
