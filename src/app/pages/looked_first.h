#pragma once
#include "app/pages/steps_panel.h"
#include "app/view/model_view.h"

#include <QObject>

namespace zl::app {

/// Lights in the view what the chosen step would take away while it is turned off, and says how much that is.
class LookedFirst : public QObject {
    Q_OBJECT
public:
    LookedFirst(Session& session, ModelView& view, StepsPanel& steps, QObject* parent);

    /// The chosen step or what stands before it may have changed.
    void refresh(const QString& piece, const QString& platform);

private:
    void leave();

    Session& session_;
    ModelView& view_;
    StepsPanel& steps_;
    Hash key_ = 0; ///< of what is lit or being looked for; 0 for nothing
};

} // namespace zl::app
