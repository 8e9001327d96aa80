#include "app/pages/suggest_all.h"

#include "app/qt_text.h"

namespace zl::app {

struct SuggestAll::Found {
    std::string piece, platform, platformName;
    Hash key = 0; ///< of the evaluation that the plan goes on from
    planner::Plan plan;
    std::string problem;
};

SuggestAll::SuggestAll(Session& session, QObject* parent) : QObject(parent), session_(session) {}

std::vector<std::pair<std::string, std::string>> SuggestAll::unfit(const Session& session) {
    std::vector<std::pair<std::string, std::string>> out;
    for (const auto& piece : session.project().pieces)
        for (const auto& id : session.project().platforms) {
            const auto& state = session.state(piece.name, id);
            if (piece.on(id) && state.kind == CrossingState::Kind::Ready && !state.report.fits())
                out.emplace_back(piece.name, id);
        }
    return out;
}

void SuggestAll::start() {
    if (running_) return;
    struct Task {
        Found found;
        Model model;
        SheetPointer sheet;
        Sizes sizes;
    };
    std::vector<Task> tasks;
    for (const auto& [piece, platform] : unfit(session_)) {
        const auto& state = session_.state(piece, platform);
        const auto sheet = session_.sheet(platform);
        if (!sheet) continue;
        tasks.push_back({{piece, platform, sheet->name, state.evaluation.key, {}, {}},
                         state.evaluation.model,
                         sheet,
                         state.sizes()});
    }
    if (tasks.empty()) return Q_EMIT session_.said(tr("Everything that is checked fits already."));
    running_ = true;
    Q_EMIT changed();
    const auto end = [this] {
        running_ = false;
        Q_EMIT changed();
    };
    session_.jobs().start<std::vector<Found>>(
        tr("Looking for fits"), this,
        [tasks, cache = session_.sharedCache()](const Progress& progress) {
            std::vector<Found> all;
            for (std::size_t i = 0; i < tasks.size(); ++i) {
                const Progress part =
                    progress.between(double(i) / double(tasks.size()), double(i + 1) / double(tasks.size()));
                Found found = tasks[i].found;
                part.report(0, found.piece + " on " + found.platformName);
                try {
                    found.plan = planner::plan(tasks[i].model, *tasks[i].sheet, cache.get(), found.key, part,
                                               {}, tasks[i].sizes);
                } catch (const Error& error) { // one must not end the others
                    found.problem = error.whole();
                }
                all.push_back(std::move(found));
            }
            return all;
        },
        [this, end](const std::vector<Found>& found) {
            take(found);
            end();
        },
        [this, end](const QString& problem) {
            Q_EMIT session_.said(problem);
            end();
        },
        Urgency::Asked,
        [this, end] {
            Q_EMIT session_.said(tr("Stopped; nothing was changed."));
            end();
        });
}

void SuggestAll::take(const std::vector<Found>& found) {
    std::vector<Line> lines;
    std::vector<const Found*> taken;
    for (const Found& f : found) {
        Line line{qs(f.piece), qs(f.platform), qs(f.platformName), {}, {}};
        const auto& state = session_.state(f.piece, f.platform);
        if (state.kind != CrossingState::Kind::Ready || state.evaluation.key != f.key) {
            line.outcome = Line::Outcome::Changed;
            line.words = tr("has changed meanwhile");
        } else if (f.plan.holds) {
            line.words = qs(showCount(long(f.plan.steps.size()), "step", "steps"));
            taken.push_back(&f);
        } else if (std::ranges::any_of(f.plan.questions, &planner::Question::waits) &&
                   f.plan.reasons.empty()) {
            line.outcome = Line::Outcome::Asks;
            line.words = qs(f.plan.questions.front().words);
        } else {
            line.outcome = Line::Outcome::StaysBroken;
            line.words = qs(!f.problem.empty()        ? f.problem
                            : !f.plan.reasons.empty() ? f.plan.reasons.front()
                                                      : std::string("no fit was found"));
        }
        lines.push_back(std::move(line));
    }
    if (!taken.empty())
        session_.edit(tr("suggested fits"), [&](project::Project& project) {
            for (const Found* f : taken) {
                project::Piece* piece = project.piece(f->piece);
                if (!piece) continue;
                auto& recipe = piece->setUpOn(f->platform).recipe;
                const auto steps = f->plan.recipe();
                recipe.insert(recipe.end(), steps.begin(), steps.end());
            }
        });
    Q_EMIT done(lines);
}

} // namespace zl::app
