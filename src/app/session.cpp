#include "app/session.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"

#include "core/deliver/deliver.h"
#include "core/files/address.h"
#include "core/project/autosave.h"
#include "core/project/companions.h"
#include "core/project/dependencies.h"
#include "core/project/other_sizes.h"

#include "standins/stand_in.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QPointer>
#include <QUndoCommand>

namespace fs = std::filesystem;

namespace zl::app {

namespace {

/// Crossings of that kind are worked out anew when it is next looked what to do.
void forget(std::map<std::pair<std::string, std::string>, CrossingState>& states, CrossingState::Kind kind) {
    for (auto& [id, state] : states)
        if (state.kind == kind) state.key = 0;
}

/// What a step could not do on another size is said by the step's own card.
void tellProblems(recipe::Evaluation& first, const recipe::Evaluation& other, const std::string& size) {
    for (std::size_t i = 0; i < other.outcomes.size(); ++i)
        if (first.outcomes[i].problem.empty() && !other.outcomes[i].problem.empty())
            first.outcomes[i].problem = fmt::format("In the {} size: {}", size, other.outcomes[i].problem);
}

Sizes sizesOf(const std::string& first, const std::vector<CrossingState::Other>& others) {
    Sizes out{first, {}};
    for (const auto& other : others) out.others.push_back({other.size, other.evaluation.model});
    return out;
}

} // namespace

Sizes CrossingState::sizes() const {
    return sizesOf(size, others);
}

Session::Session(QObject* parent, std::shared_ptr<project::Documents> documents)
    : QObject(parent), documents_(std::move(documents)) {
    autosaveTimer_.setSingleShot(true);
    autosaveTimer_.setInterval(1500);
    connect(&autosaveTimer_, &QTimer::timeout, this, &Session::autosave);
    connect(&disk_, &DiskWatch::changed, this, &Session::diskChanged);
    connect(&undo_, &QUndoStack::cleanChanged, this, &Session::saveStateChanged);
    reset({});
    open_ = false;
}

void Session::diskChanged(const DiskChanges& changes) {
    const auto say = [this](const QStringList& files, const QString& words) {
        for (const QString& file : files) Q_EMIT said(words.arg(QFileInfo(file).fileName()));
    };
    say(changes.rewritten, tr("%1 changed on disk; what depends on it runs again"));
    say(changes.gone, tr("%1 is gone; the last result stays until it is back"));
    say(changes.back, tr("%1 is back; what depends on it runs again"));
    // What failed may want a file that nobody could name; whatever comes beside its source is worth a try.
    for (auto& [id, state] : states_) {
        const auto* piece = project_.piece(id.first);
        if (state.kind != CrossingState::Kind::Failed || !piece) continue;
        for (const auto& source : piece->sources) {
            const fs::path folder =
                files::addressOf(project::wholePath(project_, source.path)).file.parent_path();
            if (changes.folders.contains(qs(folder.string()))) state.key = 0;
        }
    }
    refresh();
}

SheetPointer Session::sheet(const std::string& id) const {
    for (const SheetPointer& sheet : sheets_)
        if (sheet->id == id) return sheet;
    return nullptr;
}

void Session::reset(project::Project project) {
    for (auto& [key, job] : working_)
        if (job) job->cancel();
    working_.clear();
    states_.clear();
    preferred_ = {};
    disk_.clear();
    project_ = std::move(project);
    changedSheets_.clear(), isKept_ = false;
    loadSheets();
    documents_->forgetAll();
    undo_.clear();
    unsaved_.reset();
    open_ = true;
    Q_EMIT projectExchanged();
}

void Session::newProject() {
    reset({});
    lastSaved_ = {};
    Q_EMIT projectChanged();
}

void Session::openProject(const fs::path& file, bool recovered) {
    project::Project project = project::load(recovered ? project::autosavePath(file) : file);
    project.file = fs::absolute(file);
    reset(std::move(project));
    lastSaved_ = QFileInfo(qs(file.string())).lastModified();
    if (recovered) recoverFrom(project::autosavePath(file));
    refresh();
    lookForChangedSheets();
    Q_EMIT projectChanged();
    Q_EMIT saveStateChanged();
}

void Session::followNames(const project::Project& before) {
    if (before.pieces.size() != project_.pieces.size()) return;
    for (std::size_t i = 0; i < before.pieces.size(); ++i) {
        const std::string &from = before.pieces[i].name, &to = project_.pieces[i].name;
        if (from == to || project_.piece(from) || before.piece(to)) continue;
        for (const auto& [id, state] : std::exchange(states_, {})) {
            auto& kept = states_[{id.first == from ? to : id.first, id.second}] = state;
            if (id.first == from && kept.kind != CrossingState::Kind::Ready) kept.key = 0;
        }
        if (preferred_.first == from) preferred_.first = to;
        Q_EMIT pieceRenamed(qs(from), qs(to));
    }
}

void Session::replaceProject(project::Project project) {
    project.file = project_.file; // where it is saved is not undone
    const project::Project before = std::exchange(project_, std::move(project));
    autosaveTimer_.start();
    snapshot_.reset();
    followNames(before);
    refresh();
    Q_EMIT projectChanged();
}

void Session::documentChanged() {
    autosaveTimer_.start();
    refresh();
    Q_EMIT projectChanged();
}

std::shared_ptr<const project::Project> Session::snapshot() {
    if (!snapshot_) snapshot_ = std::make_shared<const project::Project>(project_);
    return snapshot_;
}

const CrossingState& Session::state(const std::string& piece, const std::string& platform) const {
    static const CrossingState none;
    const auto found = states_.find({piece, platform});
    return found == states_.end() ? none : found->second;
}

void Session::prefer(const std::string& piece, const std::string& platform) {
    snapshot_.reset();
    preferred_ = {piece, platform};
    const auto& now = state(piece, platform);
    if (now.kind == CrossingState::Kind::Ready || now.kind == CrossingState::Kind::Failed) return;
    if (const auto found = working_.find(preferred_); found != working_.end() && found->second)
        found->second->cancel();
    states_[preferred_].key = 0;
    Stamps stamps = sources_->stamps();
    startCrossing(piece, platform, Urgency::Chosen, stamps);
}

void Session::resume() {
    forget(states_, CrossingState::Kind::Stopped);
    refresh();
}

void Session::readFailedAgain() {
    forget(states_, CrossingState::Kind::Failed);
    if (isOpen()) refresh();
}

bool Session::isAnythingStopped() const {
    return std::ranges::any_of(
        states_, [](const auto& entry) { return entry.second.kind == CrossingState::Kind::Stopped; });
}

Hash Session::deliveryKey(const std::string& pieceName, const std::string& platform) const {
    const project::Piece* piece = project_.piece(pieceName);
    const SheetPointer sheet = this->sheet(platform);
    if (!piece || !sheet) return 0;
    Stamps stamps = sources_->stamps();
    return dependenciesOf(project_, *piece, *sheet).deliveryKey(stamps, state(pieceName, platform).files);
}

void Session::refresh() {
    snapshot_.reset();
    Stamps stamps = sources_->stamps();
    for (const project::Piece& piece : project_.pieces)
        for (const project::Crossing& crossing : piece.crossings)
            startCrossing(piece.name, crossing.platform,
                          std::pair(piece.name, crossing.platform) == preferred_ ? Urgency::Chosen
                                                                                 : Urgency::Usual,
                          stamps);
}

std::function<void(const Model&)> Session::comesTo(const std::pair<std::string, std::string>& id, Hash key) {
    return [self = QPointer(this), id, key](const Model& model) {
        const auto shared = std::make_shared<const Model>(model);
        QMetaObject::invokeMethod(
            qApp,
            [self, id, key, shared] {
                if (!self) return;
                const auto found = self->states_.find(id);
                if (found == self->states_.end() || found->second.key != key ||
                    found->second.kind != CrossingState::Kind::Working)
                    return;
                Q_EMIT self->crossingComes(qs(id.first), qs(id.second), shared);
            },
            Qt::QueuedConnection);
    };
}

void Session::startCrossing(const std::string& pieceName, const std::string& platform, Urgency urgency,
                            Stamps& stamps) {
    const project::Piece* piece = project_.piece(pieceName);
    const SheetPointer sheet = this->sheet(platform);
    if (!piece || !sheet) return;
    const project::Dependencies dependencies = dependenciesOf(project_, *piece, *sheet);
    const Hash key = dependencies.shapeKey(stamps);
    const std::pair id(pieceName, platform);
    CrossingState& state = states_[id];
    if (state.key == key &&
        (state.kind != CrossingState::Kind::Ready || state.stamps == stamps.of(state.files)))
        return;
    state.key = key;
    state.kind = CrossingState::Kind::Working;
    disk_.watch(dependencies.files);
    if (const auto found = working_.find(id); found != working_.end() && found->second)
        found->second->cancel();

    struct Result {
        project::LoadedPiece loaded;
        std::vector<fs::path> files;
        std::string stamps;
        recipe::Evaluation evaluation;
        std::vector<CrossingState::Other> others;
        platform::FitReport report;
    };
    working_[id] = jobs_.start<Result>(
        tr("%1 on %2").arg(qs(pieceName), qs(sheet->name)), this,
        [project = snapshot(), pieceName, platform, sheet, sources = sources_, cache = cache_,
         comes = comesTo(id, key)](const Progress& progress) {
            const project::Piece& piece = *project->piece(pieceName);
            Result result;
            result.loaded = sources->load(*project, piece, progress.between(0, 0.4));
            const project::Companions around(*project, piece, *sheet, *sources, cache.get(), progress);
            recipe::Setting setting(sheet.get(), &around);
            setting.meanwhile = comes;
            result.evaluation =
                recipe::evaluate(result.loaded.model, result.loaded.hash, recipeFor(piece, platform), setting,
                                 cache.get(), progress.between(0.4, 0.7), recipe::OnProblem::PassOn);
            result.files = around.filesWith(result.loaded.model);
            const auto others = project::otherSizes(*project, piece, *sheet, *sources, cache.get(),
                                                    progress.between(0.7, 0.8));
            for (const deliver::OtherSize& other : others) {
                auto evaluation = recipe::evaluate(other.source, other.hash, recipeFor(piece, platform),
                                                   {sheet.get(), other.around.get()}, cache.get(),
                                                   progress.between(0.8, 0.9), recipe::OnProblem::PassOn);
                tellProblems(result.evaluation, evaluation, other.size);
                result.others.push_back({other.size, other.source, other.hash, std::move(evaluation)});
            }
            for (const fs::path& file : project::filesOf(others)) result.files.push_back(file);
            result.stamps = sources->stamps().of(result.files);
            result.report = platform::check(result.evaluation.model, *sheet, progress.between(0.9, 1),
                                            sizesOf(piece.sizes()[0], result.others));
            return result;
        },
        [this, id, key](Result result) {
            CrossingState& state = states_[id];
            if (state.key != key) return;
            disk_.watch(result.files);
            state.files = std::move(result.files);
            state.stamps = std::move(result.stamps);
            state.kind = CrossingState::Kind::Ready;
            state.source = std::move(result.loaded.model);
            state.sourceHash = result.loaded.hash;
            state.evaluation = std::move(result.evaluation);
            if (const auto* piece = project_.piece(id.first)) state.size = piece->sizes()[0];
            state.others = std::move(result.others);
            state.report = std::move(result.report);
            state.problem.clear();
            Q_EMIT crossingChanged(qs(id.first), qs(id.second));
        },
        [this, id, key](const QString& problem) {
            CrossingState& state = states_[id];
            if (state.key != key) return;
            state.kind = CrossingState::Kind::Failed;
            state.problem = problem.toStdString();
            Q_EMIT crossingChanged(qs(id.first), qs(id.second));
        },
        urgency,
        [this, id, key] {
            CrossingState& state = states_[id];
            if (state.key != key || state.kind != CrossingState::Kind::Working)
                return; // other work took its place
            if (const auto found = working_.find(id);
                found != working_.end() && found->second && !found->second->isCancelled())
                return;
            state.kind = CrossingState::Kind::Stopped;
            Q_EMIT crossingChanged(qs(id.first), qs(id.second));
        });
    Q_EMIT crossingChanged(qs(pieceName), qs(platform));
}

} // namespace zl::app
