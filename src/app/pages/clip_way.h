#pragma once
#include "app/session.h"
#include "app/view/model_view.h"

#include <QObject>

namespace zl::app {

/// What a clip was before the recipe's steps: the clip of its name in `before`; null where there is none, or
/// where no step has changed it.
std::shared_ptr<const Clip> clipBefore(const Scene& before, const std::shared_ptr<const Clip>& clip);

/// Puts the way of a clip onto the view's floor: where what carries the piece goes, and where it went before
/// the recipe's steps. Worked out beside the window's thread.
class ClipWay : public QObject {
    Q_OBJECT
public:
    ClipWay(Session& session, ModelView& view, QObject* parent);

    /// -1 for none.
    void show(int clip);
    void setOn(bool on);
    /// The shapes may have changed.
    void refresh() { show(clip_); }

private:
    struct Ways {
        WayTool::Way now, before;
    };
    Session& session_;
    ModelView& view_;
    int clip_ = -1;
    bool on_ = true;
    std::shared_ptr<const Clip> shown_; ///< whose way is on the floor, or is being worked out
    std::shared_ptr<const Scene> shownBefore_;
};

} // namespace zl::app
