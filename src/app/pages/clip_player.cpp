#include "app/pages/clip_player.h"

#include "core/motion/posed.h"

namespace zl::app {

ClipPlayer::ClipPlayer(Session& session, ModelView& view, QObject* parent)
    : QObject(parent), session_(session), view_(view) {}

void ClipPlayer::show(int clip, double seconds, bool plays) {
    wanted_ = {clip, seconds, plays};
    work();
}

void ClipPlayer::refresh() {
    work();
}

void ClipPlayer::work() {
    const auto rest = view_.restScene();
    if (wanted_.clip < 0 || !rest || std::size_t(wanted_.clip) >= rest->model.clips.size()) {
        shownOf_ = nullptr;
        return view_.setPosed(nullptr);
    }
    if (working_ || (wanted_ == shown_ && rest == shownOf_)) return;
    working_ = true;
    session_.jobs().start<std::shared_ptr<const Scene>>(
        tr("Posing"), this,
        [rest, moment = wanted_](const Progress& progress) {
            const auto& clip = *rest->model.clips[std::size_t(moment.clip)];
            return posedScene(*rest, motion::posed(rest->model, clip, moment.seconds), !moment.plays,
                              progress);
        },
        [this, rest, moment = wanted_](const std::shared_ptr<const Scene>& scene) {
            working_ = false;
            shown_ = moment, shownOf_ = rest;
            if (wanted_.clip >= 0 && rest == view_.restScene()) view_.setPosed(scene);
            work();
        },
        [this](const QString& problem) {
            working_ = false;
            Q_EMIT session_.said(problem);
        },
        Urgency::Shown, [this] { working_ = false; });
}

} // namespace zl::app
