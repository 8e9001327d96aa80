#pragma once
#include "app/session.h"
#include "app/view/model_view.h"

#include "core/avatar/face.h"

#include <QObject>

#include <optional>

namespace zl::app {

/// Puts the view's piece into the pose of a moment. Poses are worked out beside the window's thread, one at a
/// time; while one is, only the last moment that was asked for waits.
class ClipPlayer : public QObject {
    Q_OBJECT
public:
    ClipPlayer(Session& session, ModelView& view, QObject* parent);

    /// `clip` -1 is rest. While it `plays`, what is only needed for a still picture is left out.
    void show(int clip, double seconds, bool plays);
    /// Shows how much each corner hangs on a bone, an empty name for the one that most hang on; nothing ends
    /// it.
    void weigh(const std::optional<QString>& bone);
    /// Shows an avatar's face on top of the clip or of rest; nothing ends it.
    void wear(const std::optional<avatar::Face>& face);
    /// Shows the piece before its steps at the same moment, seen through.
    void showGhost(bool on);
    /// The shape has changed; shows it in the pose that was asked for last.
    void refresh();

private:
    struct Moment {
        int clip = -1;
        double seconds = 0;
        bool plays = false;
        std::optional<std::string> weighed; ///< bone
        bool ghost = false;
        std::optional<avatar::Face> face;
        bool operator==(const Moment&) const = default;
    };
    struct Made {
        std::shared_ptr<const Scene> posed, ghost, weighed;
    };
    void work();
    /// `weighed` is the piece at rest with the weights that the moment shows, where that is known already.
    static Made made(const std::shared_ptr<const Scene>& rest, const std::shared_ptr<const Scene>& before,
                     const std::shared_ptr<const Scene>& weighed, const Moment& moment,
                     const Progress& progress);

    Session& session_;
    ModelView& view_;
    Moment wanted_, shown_;
    std::shared_ptr<const Scene> shownOf_, shownBefore_, shownWeighed_;
    bool working_ = false;
};

} // namespace zl::app
