#include "app/pages/clip_player.h"

#include "app/pages/clip_way.h"

#include "core/motion/posed.h"

#include <algorithm>
#include <utility>

namespace zl::app {

ClipPlayer::ClipPlayer(Session& session, ModelView& view, QObject* parent)
    : QObject(parent), session_(session), view_(view) {}

void ClipPlayer::show(int clip, double seconds, bool plays) {
    wanted_.clip = clip, wanted_.seconds = seconds, wanted_.plays = plays;
    work();
}

void ClipPlayer::weigh(const std::optional<QString>& bone) {
    wanted_.weighed = bone ? std::optional(bone->toStdString()) : std::nullopt;
    work();
}

void ClipPlayer::showGhost(bool on) {
    wanted_.ghost = on;
    work();
}

void ClipPlayer::wear(const std::optional<avatar::Face>& face) {
    wanted_.face = face;
    work();
}

void ClipPlayer::refresh() {
    work();
}

ClipPlayer::Made ClipPlayer::made(const std::shared_ptr<const Scene>& rest,
                                  const std::shared_ptr<const Scene>& before,
                                  const std::shared_ptr<const Scene>& weighed, const Moment& moment,
                                  const Progress& progress) {
    Made out;
    const bool moves = moment.clip >= 0 && std::size_t(moment.clip) < rest->model.clips.size();
    const auto clip = moves ? rest->model.clips[std::size_t(moment.clip)] : nullptr;
    if (moment.weighed) out.weighed = weighed ? weighed : weighedScene(rest, *moment.weighed);
    const Scene& base = out.weighed ? *out.weighed : *rest; // colours go along with the corners
    const bool wears = moment.face && rest->model.avatar;
    const auto pose = [&] {
        if (!wears) return motion::posed(rest->model, *clip, moment.seconds);
        const Clip face = clip ? avatar::withFace(rest->model, *clip, moment.seconds, *moment.face)
                               : avatar::clipOf(rest->model, *moment.face);
        return motion::posed(rest->model, face, 0);
    };
    out.posed =
        moves || wears ? posedScene(base, pose(), !moment.plays, progress.between(0, 0.6)) : out.weighed;
    if (!moment.ghost || !before) return out;
    out.ghost = before;
    if (!clip) return out;
    const auto was = clipBefore(*before, clip);
    const auto same = std::ranges::find(before->model.clips, clip);
    if (was || same != before->model.clips.end())
        out.ghost = posedScene(*before, motion::posed(before->model, was ? *was : *clip, moment.seconds),
                               false, progress.between(0.6, 1));
    return out;
}

void ClipPlayer::work() {
    const auto rest = view_.restScene(), before = wanted_.ghost ? view_.beforeScene() : nullptr;
    const bool moves = rest && wanted_.clip >= 0 && std::size_t(wanted_.clip) < rest->model.clips.size();
    if (!rest || (!moves && !wanted_.weighed && !before && !wanted_.face)) {
        shownOf_ = nullptr;
        if (std::exchange(shown_.ghost, false)) view_.setGhost(nullptr); // others show some too
        return view_.setPosed(nullptr);
    }
    if (working_ || (wanted_ == shown_ && rest == shownOf_ && before == shownBefore_)) return;
    const auto known = rest == shownOf_ && wanted_.weighed == shown_.weighed ? shownWeighed_ : nullptr;
    working_ = true;
    session_.jobs().start<Made>(
        tr("Posing"), this,
        [rest, before, weighed = known, moment = wanted_](const Progress& progress) {
            return made(rest, before, weighed, moment, progress);
        },
        [this, rest, before, moment = wanted_](const Made& scenes) {
            working_ = false;
            shown_ = moment, shownOf_ = rest, shownBefore_ = before, shownWeighed_ = scenes.weighed;
            if (rest == view_.restScene()) {
                const bool posed = wanted_.clip >= 0 || wanted_.weighed || wanted_.face;
                view_.setPosed(posed ? scenes.posed : nullptr);
                view_.setGhost(wanted_.ghost ? scenes.ghost : nullptr);
            }
            work();
        },
        [this](const QString& problem) {
            working_ = false;
            Q_EMIT session_.said(problem);
        },
        Urgency::Shown, [this] { working_ = false; });
}

} // namespace zl::app
