#include "app/pages/looked_first.h"

#include "app/qt_text.h"

#include "core/base/json_text.h"
#include "core/base/words.h"
#include "core/project/companions.h"

namespace zl::app {

LookedFirst::LookedFirst(Session& session, ModelView& view, StepsPanel& steps, QObject* parent)
    : QObject(parent), session_(session), view_(view), steps_(steps) {}

void LookedFirst::leave() {
    if (std::exchange(key_, 0) == 0) return;
    view_.setHighlight({}, {});
    steps_.setLooked({});
}

void LookedFirst::refresh(const QString& piece, const QString& platform) {
    const auto project = session_.snapshot();
    const auto* owner = project->piece(piece.toStdString());
    const auto& state = session_.state(piece.toStdString(), platform.toStdString());
    const EntryPlace place = steps_.selected();
    const auto* entry = steps_.entry(place);
    const auto sheet = session_.sheet(platform.toStdString());
    if (!owner || !entry || entry->on || !sheet || state.kind != CrossingState::Kind::Ready ||
        !steps::makeStep(entry->step)->looksFirst())
        return leave();
    const std::size_t at = place.within(*owner);
    if (at >= state.evaluation.after.size()) return leave();
    const Hash key = hashText(jsonText(entry->params), hashText(entry->step, state.evaluation.key ^ at));
    if (key == key_) return;
    leave();
    key_ = key;
    struct Looked {
        LitFaces lit;
        QString words;
    };
    session_.jobs().start<Looked>(
        tr("Looking for what %1 would take").arg(qs(steps::infoOf(entry->step).name)), this,
        [model = state.evaluation.after[at], entry = *entry, sheet, project, name = piece.toStdString(),
         sources = session_.sources(), cache = session_.sharedCache()](const Progress& progress) {
            const project::Companions around(*project, *project->piece(name), *sheet, *sources, cache.get(),
                                             progress);
            steps::StepContext context{progress, sheet.get(), &around};
            const auto chosen = steps::makeStep(entry.step, entry.params)->takes(model, context);
            Looked looked;
            std::vector<std::string> names;
            for (std::size_t n = 0; chosen && n < model.nodes.size(); ++n) {
                if (chosen->countOf(n) == 0) continue;
                names.push_back(model.nodes[n].name);
                for (std::uint32_t t = 0; t < chosen->faces[n].size(); ++t)
                    if (chosen->faces[n][t]) looked.lit.faces.push_back({static_cast<int>(n), t});
            }
            looked.words =
                names.empty()
                    ? tr("Nothing would go.")
                    : tr("Would take away %1 in %2, lit in the view.")
                          .arg(qs(showCount(long(looked.lit.faces.size()), "triangle", "triangles")),
                               qs(showNames(names)));
            return looked;
        },
        [this, key](const Looked& looked) {
            if (key != key_) return;
            view_.setHighlight(looked.lit, looked.lit.empty() ? QString() : tr("goes when it is turned on"));
            steps_.setLooked(looked.words);
        },
        [this, key](const QString& problem) {
            if (key == key_) steps_.setLooked(problem);
        },
        Urgency::Shown);
}

} // namespace zl::app
