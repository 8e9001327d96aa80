#pragma once
#include "app/pages/clip_bar.h"
#include "app/session.h"
#include "app/view/model_view.h"

#include <QObject>

namespace zl::app {

/// Fills the clip bar's lane: how the whole, or one bone, moves in the clip that is chosen, and how the whole
/// went before the recipe's steps. Worked out beside the window's thread.
class ClipCurves : public QObject {
    Q_OBJECT
public:
    ClipCurves(Session& session, ModelView& view, ClipBar& bar, QObject* parent);
    /// The shapes, the clip or what is asked about may have changed.
    void refresh();

private:
    struct Asked {
        std::shared_ptr<const Clip> clip;
        std::shared_ptr<const Scene> scene, before;
        QString whose;
        bool operator==(const Asked&) const = default;
    };
    Session& session_;
    ModelView& view_;
    ClipBar& bar_;
    Asked shown_; ///< what the lane shows, or is being worked out for it
};

} // namespace zl::app
