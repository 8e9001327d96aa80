#include "app/pages/workbench_scenes.h"

#include "app/qt_text.h"

#include "core/platform/small_pictures.h"
#include "core/project/companions.h"
#include "core/steps/wear.h"

namespace zl::app {

using steps::Stage;

namespace {

/// What a view shows of a model. Shared meshes and pictures are told apart by address, which holds only while
/// the model is held: whoever keeps a signature keeps its model too.
Hash signature(const Model& model) {
    Hash hash = hashBytes(&model.placement, sizeof model.placement);
    const auto add = [&](const auto& value) { hash = hashBytes(&value, sizeof value, hash); };
    for (const auto& mesh : model.meshes) add(mesh.get());
    for (const Node& node : model.nodes) add(node.local), add(node.mesh), add(node.parent);
    for (const auto& clip : model.clips) add(clip.get());
    for (const Material& material : model.materials) {
        const PictureUse& use = material.picture(PictureRole::Colour);
        add(material.baseColour), add(use.uvSet), add(use.placement.offset), add(use.placement.scale);
        add(use.placement.turn), add(use.sampler.across), add(use.sampler.down), add(use.sampler.smooth);
        const int image = use.image;
        add(image < 0 ? nullptr : model.images[image].get());
    }
    return hash;
}

/// The steps that put a piece, and others onto it, in place alone: without what shapes it, what it wears on
/// its faces and what changes its clips.
recipe::Recipe placedOnly(recipe::Recipe recipe) {
    for (auto& entry : recipe) {
        const Stage stage = steps::infoOf(entry.step).stage;
        if (stage == Stage::Shape || stage == Stage::Surface ||
            (stage == Stage::Motion && entry.step != steps::Wear::info.id))
            entry.on = false;
    }
    return recipe;
}

void hide(Model& model, const std::set<NodePath>& hidden) {
    if (hidden.empty()) return;
    const auto paths = nodePaths(model);
    for (std::size_t n = 0; n < paths.size(); ++n)
        if (hidden.contains(paths[n])) model.nodes[n].mesh = -1;
}

/// Whether what lies in one box would be a speck, or out of sight, where the other was framed.
bool farApart(const geometry::Bounds& was, const geometry::Bounds& is) {
    const double before = glm::length(was.size()), after = glm::length(is.size());
    if (!(before > 0) || !(after > 0)) return false;
    return after > 2.5 * before || before > 2.5 * after || glm::distance(was.centre(), is.centre()) > before;
}

} // namespace

WorkbenchScenes::WorkbenchScenes(Session& session, ModelView& view, QObject* parent)
    : QObject(parent), session_(session), view_(view) {}

void WorkbenchScenes::open(const QString& piece, const QString& platform) {
    piece_ = piece;
    platform_ = platform;
    frameNext_ = true;
    instead_.reset();
    after_ = before_ = nullptr;
}

void WorkbenchScenes::show() {
    view_.setScenes(after_, before_, false);
}

void WorkbenchScenes::refresh() {
    refreshShapes();
    refreshFront();
}

void WorkbenchScenes::refreshShapes() {
    if (instead_) return;
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    const Model seenModel = seen(state.evaluation.model);
    const Hash afterKey = signature(seenModel);
    const auto recipe = recipeFor(*piece, sheet->id);
    const auto plain = placedOnly(recipe);
    const bool shaped = plain != recipe;

    struct Made {
        Known after, before;
    };
    const auto known = scenes_.find(afterKey);
    if (making_.contains(afterKey)) return;
    making_.insert(afterKey);
    session_.jobs().start<Made>(
        tr("Preparing the view"), this,
        [model = seenModel, hidden = hidden_, source = state.source, hash = state.sourceHash, plain, shaped,
         sheet, project = session_.snapshot(), name = piece_.toStdString(), sources = session_.sources(),
         cache = session_.sharedCache(), scenes = scenes_,
         ready = known == scenes_.end() ? nullptr : known->second.scene](const Progress& progress) {
            Made made;
            made.after = {model, ready ? ready : makeScene(model, progress.between(0, shaped ? 0.4 : 1))};
            if (shaped) {
                const project::Companions around(*project, *project->piece(name), *sheet, *sources,
                                                 cache.get(), progress);
                made.before.model = recipe::evaluate(source, hash, plain, {sheet.get(), &around}, cache.get(),
                                                     progress.between(0.4, 0.5), recipe::OnProblem::PassOn)
                                        .model;
                hide(made.before.model, hidden);
                if (model.blocks) // as large as what was built of it, to be held against it
                    made.before.model = moved(std::move(made.before.model),
                                              model.travelled * glm::inverse(made.before.model.travelled));
                const auto found = scenes.find(signature(made.before.model));
                made.before.scene = found != scenes.end()
                                        ? found->second.scene
                                        : makeScene(made.before.model, progress.between(0.5, 1));
            }
            return made;
        },
        [this, afterKey, id = std::pair(piece_, platform_)](Made made) {
            making_.erase(afterKey);
            if (id != std::pair(piece_, platform_) || instead_) return;
            const auto& now = session_.state(piece_.toStdString(), platform_.toStdString());
            if (now.kind == CrossingState::Kind::Ready && signature(seen(now.evaluation.model)) != afterKey)
                return refreshShapes();
            if (scenes_.size() > 4) scenes_.clear();
            const auto after = made.after.scene, before = made.before.scene;
            if (before) scenes_[signature(made.before.model)] = std::move(made.before);
            scenes_[afterKey] = std::move(made.after);
            QString words = tr("after %1").arg(qs(showNumber(double(after->triangles), 0)));
            for (const auto& outcome : now.evaluation.outcomes)
                if (outcome.facts.contains("largestDeviationShare"))
                    words +=
                        tr(" · largest deviation %1 %")
                            .arg(qs(showMeasure(100 * outcome.facts["largestDeviationShare"].get<double>())));
            view_.setCaptions(before ? tr("before %1").arg(qs(showNumber(double(before->triangles), 0)))
                                     : QString(),
                              words);
            put(after, before);
            if (view_.deviation) measureDeviation();
        },
        [this, afterKey](const QString& problem) {
            making_.erase(afterKey);
            view_.setMessage(problem);
        },
        Urgency::Shown,
        [this, afterKey] {
            making_.erase(afterKey);
            Q_EMIT stopped();
        });
}

void WorkbenchScenes::put(std::shared_ptr<const Scene> after, std::shared_ptr<const Scene> before) {
    const bool far = after_ && farApart(after_->bounds, after->bounds);
    after_ = std::move(after);
    before_ = std::move(before);
    const bool whole = std::exchange(frameNext_, false) || far;
    view_.setScenes(after_, before_, whole);
    if (after_->triangles > 0) view_.setMessage({});
    Q_EMIT shapesShown();
    Q_EMIT frontShown();
}

Model WorkbenchScenes::seen(Model model) const {
    hide(model, hidden_);
    const auto sheet = session_.sheet(platform_.toStdString());
    if (sheet && platform::smallPictureBytes(*sheet)) // which shows pixels as they are
        for (Material& material : model.materials)
            material.picture(PictureRole::Colour).sampler.smooth = false;
    return model;
}

void WorkbenchScenes::setHidden(std::set<NodePath> hidden) {
    if (hidden == hidden_) return;
    hidden_ = std::move(hidden);
    if (session_.project().piece(piece_.toStdString())) refreshShapes();
}

void WorkbenchScenes::showInstead(std::optional<Model> model, bool frame, const QString& words) {
    instead_ = std::move(model);
    insteadWords_ = words;
    if (!instead_) return;
    frameNext_ |= frame;
    makeInstead();
    refreshFront();
}

void WorkbenchScenes::makeInstead() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const Hash key = signature(*instead_), beforeKey = signature(state.evaluation.model);
    struct Made {
        Known after, before;
    };
    session_.jobs().start<Made>(
        tr("Preparing the view"), this,
        [model = *instead_, was = state.evaluation.model, key, beforeKey,
         scenes = scenes_](const Progress& progress) {
            const auto sceneOf = [&](const Model& of, Hash hash, const Progress& part) {
                const auto known = scenes.find(hash);
                return Known{of, known != scenes.end() ? known->second.scene : makeScene(of, part)};
            };
            return Made{sceneOf(model, key, progress.between(0, 0.6)),
                        sceneOf(was, beforeKey, progress.between(0.6, 1))};
        },
        [this, key, beforeKey, id = std::pair(piece_, platform_)](Made made) {
            if (id != std::pair(piece_, platform_) || !instead_ || signature(*instead_) != key) return;
            if (scenes_.size() > 4) scenes_.clear();
            const auto after = made.after.scene, before = made.before.scene;
            scenes_[key] = std::move(made.after);
            scenes_[beforeKey] = std::move(made.before);
            view_.setCaptions(tr("as it is"), insteadWords_);
            put(after, before);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Shown);
}

void WorkbenchScenes::measureDeviation() {
    if (!after_ || !before_) {
        Q_EMIT session_.said(tr("Nothing changes the shape yet, so there is no deviation to show."));
        return;
    }
    session_.jobs().start<HeatedScene>(
        tr("Measuring the deviation"), this,
        [after = after_, before = before_](const Progress& progress) {
            return makeHeatedScene(*after, *before, progress);
        },
        [this, after = after_](const HeatedScene& heated) {
            if (after == after_) view_.setHeat(heated.scene, heated.hottest);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Shown);
}

const Model& WorkbenchScenes::shown() const {
    return instead_ ? *instead_
                    : session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model;
}

void WorkbenchScenes::refreshFront() {
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!sheet) return;
    const Model& model = shown();
    if (model.headingKnown) {
        view_.setFront(ModelView::Front{0, tr("front, faces %1 there").arg(qs(sheet->front)), true});
        return Q_EMIT frontShown();
    }
    const Hash key = signature(model);
    if (front_.key == key) return showFront(front_.guess);
    view_.setFront(std::nullopt);
    session_.jobs().start<std::optional<geometry::HeadingGuess>>(
        tr("Looking for a front"), this, [model](const Progress&) { return geometry::guessHeading(model); },
        [this, key, model](const std::optional<geometry::HeadingGuess>& guess) {
            front_ = {key, model, guess};
            const auto& now = session_.state(piece_.toStdString(), platform_.toStdString());
            if ((instead_ || now.kind == CrossingState::Kind::Ready) && !shown().headingKnown &&
                signature(shown()) == key)
                showFront(guess);
        },
        [](const QString&) {}, Urgency::Idle);
}

void WorkbenchScenes::showFront(const std::optional<geometry::HeadingGuess>& guess) {
    const auto sheet = session_.sheet(platform_.toStdString());
    const bool asked = sheet && std::ranges::any_of(sheet->rules, [](const platform::RuleSpec& rule) {
                           return rule.check == "heading-known";
                       });
    if (guess)
        view_.setFront(ModelView::Front{guess->angle, tr("front? %1").arg(qs(guess->reason)), false});
    else if (asked) // to be dragged, for nothing says it
        view_.setFront(ModelView::Front{0, tr("front? drag the arrow"), false});
    else
        view_.setFront(std::nullopt);
    Q_EMIT frontShown();
}

void WorkbenchScenes::showYardstick() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    const auto project = session_.snapshot();
    const auto* piece = project->piece(piece_.toStdString());
    if (!sheet || !piece || project->yardsticks.empty()) return;
    const auto measuredBy = project::namedInputs(*project, *piece, sheet->id).yardsticks;
    const auto* shown = measuredBy.empty() ? &project->yardsticks.front() : measuredBy.front();
    struct Made {
        std::shared_ptr<const Scene> scene;
        double tall = 0;
    };
    session_.jobs().start<Made>(
        tr("Preparing the yardstick"), this,
        [project, shown, sources = session_.sources()](const Progress& progress) {
            const Model model = sources->load(*project, *shown, progress.between(0, 0.5)).model;
            return Made{makeScene(model, progress.between(0.5, 1)), geometry::worldBounds(model).size().y};
        },
        [this, sheet, name = qs(shown->name),
         own = geometry::worldBounds(state.evaluation.model).size().y](const Made& made) {
            view_.setYardstick(made.scene, tr("%1: %2 tall, this is %3 times that")
                                               .arg(name, qs(sheet->showBoth(made.tall)),
                                                    qs(showMeasure(made.tall > 0 ? own / made.tall : 0))));
            view_.frameAll();
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Shown);
}

} // namespace zl::app
