#include "app/surface/bind_panel.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/files/contents.h"
#include "core/formats/file_kind.h"
#include "core/project/dependencies.h"

#include <QDragEnterEvent>
#include <QFileDialog>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace fs = std::filesystem;

namespace zl::app {

namespace {

constexpr std::size_t mostLeft = 12;

/// The pictures of a folder, an archive, or a few files; paths within their container.
std::pair<fs::path, std::vector<std::string>> picturesIn(const std::vector<fs::path>& paths,
                                                         const Progress& progress) {
    std::vector<std::string> out;
    const auto add = [&](const std::string& path) {
        if (formats::kindOf(path) == formats::FileKind::Picture) out.push_back(path);
    };
    if (paths.size() == 1 && fs::is_directory(paths[0])) {
        const auto folder = files::folderFiles(paths[0]);
        for (const files::Entry& entry : folder->list()) add(entry.path);
        return {paths[0], out};
    }
    if (paths.size() == 1 && files::isContainer(paths[0].filename().string())) {
        for (const files::Held& held : files::contentsOf(paths[0], {}, progress).held) add(held.path);
        return {paths[0], out};
    }
    const fs::path folder = paths.empty() ? fs::path() : paths[0].parent_path();
    for (const fs::path& path : paths) {
        const std::string beside = path.lexically_relative(folder).generic_string();
        if (beside.empty() || beside.starts_with(".."))
            throw Error("the files lie in several places", {},
                        "Choose files of one folder, or the folder itself.");
        add(beside);
    }
    return {folder, out};
}

} // namespace

BindPanel::BindPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("bindPanel");
    setAcceptDrops(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    head->addWidget(headingLabel(tr("Bind pictures"), 2), 1);
    auto* close = iconButton("x", tr("Bind nothing"));
    connect(close, &QToolButton::clicked, this, &BindPanel::closed);
    head->addWidget(close);
    column->addLayout(head);
    column->addWidget(textLabel(tr("Found by the endings of their names. Choose where they lie, or drop them "
                                   "here; nothing is bound before you press Bind."),
                                "dim"));
    const auto source = [&](const QString& text, const char* name, auto does) {
        auto* one = button(text);
        one->setObjectName(name);
        connect(one, &QPushButton::clicked, this, does);
        return one;
    };
    auto* sources = new QHBoxLayout;
    sources->addWidget(source(tr("Folder…"), "bindFolder", [this] {
        const QString folder = QFileDialog::getExistingDirectory(this, tr("Pictures in a folder"));
        if (!folder.isEmpty()) look({folder});
    }));
    sources->addWidget(source(tr("Files…"), "bindFiles", [this] {
        const QStringList files = QFileDialog::getOpenFileNames(this, tr("Pictures or an archive of them"));
        if (!files.isEmpty()) look(files);
    }));
    sources->addStretch(1);
    column->addLayout(sources);
    where_ = textLabel({}, "dim");
    where_->setObjectName("bindWhere");
    column->addWidget(where_);
    matched_ = new MatchedPictures;
    column->addWidget(matched_);
    twofold_ = textLabel({}, "warn");
    twofold_->setObjectName("bindTwofold");
    column->addWidget(twofold_);
    moved_ = textLabel({});
    moved_->setObjectName("bindMoved");
    column->addWidget(moved_);
    auto* actions = new QHBoxLayout;
    bind_ = button({}, "main", "check");
    bind_->setObjectName("bindNow");
    relink_ = button({}, "strong");
    relink_->setObjectName("relinkNow");
    actions->addWidget(bind_);
    actions->addWidget(relink_);
    actions->addStretch(1);
    column->addLayout(actions);
    column->addStretch(1);
    connect(matched_, &MatchedPictures::changed, this, &BindPanel::showButtons);
    connect(relink_, &QPushButton::clicked, this, &BindPanel::relink);
    connect(bind_, &QPushButton::clicked, this, [this] {
        const auto recipe =
            project::wearing(matched_->chosen(), project::keptPath(session_.project(), found_.container));
        const bool ofPiece = std::ranges::all_of(matched_->chosen(), [&](const auto& picture) {
            return picture.material.empty() || everywhere_.contains(picture.material);
        });
        if (!recipe.empty()) Q_EMIT bound(recipe[0].params, ofPiece);
    });
    hide();
}

void BindPanel::open(const QString& piece, const CrossingState& state) {
    piece_ = piece;
    wears_ = {};
    everywhere_.clear();
    const auto* of = session_.project().piece(piece.toStdString());
    const auto& after = state.evaluation.after;
    const std::size_t own = of ? std::min(of->recipe.size(), after.size()) : 0;
    for (const Material& material : (own == 0 ? state.source : after[own - 1]).materials)
        everywhere_.insert(material.name);
    const Model& model = state.evaluation.model;
    for (const int m : usedMaterials(model))
        if (m >= 0) wears_.materials.push_back(model.materials[std::size_t(m)].name);
    model_ = of && !of->sources.empty() ? of->sources[0].path.filename().string() : piece.toStdString();
    found_ = {};
    where_->clear();
    matched_->hideAll();
    showButtons();
    setVisible(true);
    findChild<QPushButton*>("bindFolder")->setFocus();
}

void BindPanel::look(const QStringList& chosen) {
    std::vector<fs::path> paths;
    for (const QString& path : chosen) paths.emplace_back(path.toStdString());
    platform::RoleEndings general = platform::usualRoleEndings();
    try {
        general = platform::generalRoleEndings();
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
    const auto endings = project::roleEndingsFor(session_.project().platforms, session_.sheets(), general);
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return;
    where_->setText(tr("Looking through %1…").arg(breakable(chosen.join(", "))));
    session_.jobs().start<Found>(
        tr("Finding pictures for %1").arg(piece_), this,
        [paths, endings, wears = wears_, model = model_, project = session_.snapshot(),
         piece = *piece](const Progress& progress) {
            Found found;
            auto [container, pictures] = picturesIn(paths, progress);
            found.container = container;
            found.pictures = pictures.size();
            std::vector<fs::path> whole;
            for (const std::string& path : pictures) whole.push_back(container / path);
            found.moved = project::movedPictures(*project, piece, whole);
            const project::PictureShelf shelf(std::move(pictures), endings);
            found.matching = shelf.matching(model, wears, &found.twofold);
            found.left = shelf.left(model, wears, found.matching, mostLeft);
            return found;
        },
        [this](Found found) { show(std::move(found)); },
        [this](const QString& problem) { where_->setText(breakable(problem)); }, Urgency::Asked,
        [this] { where_->setText(tr("Looking was stopped.")); });
}

void BindPanel::show(Found found) {
    found_ = std::move(found);
    where_->setText(tr("%1 in %2")
                        .arg(qs(showCount(long(found_.pictures), "picture", "pictures")),
                             breakable(qs(found_.container.string()))));
    matched_->show(found_.matching, found_.matching, found_.left);
    QStringList twice;
    for (const project::OfferedPicture& picture : found_.twofold)
        twice << tr("%1 (%2%3)")
                     .arg(qs(picture.path).section('/', -1), qs(roleName(picture.role)),
                          picture.material.empty() ? QString() : tr(" of %1").arg(qs(picture.material)));
    twofold_->setText(twice.isEmpty() ? QString()
                                      : breakable(tr("Twofold, and not used: %1.").arg(twice.join(", "))));
    QStringList gone;
    for (const project::MovedPicture& picture : found_.moved) gone << qs(picture.was).section('/', -1);
    moved_->setText(gone.isEmpty()
                        ? QString()
                        : breakable(tr("Not where steps name it, and found here: %1.").arg(gone.join(", "))));
    showButtons();
}

void BindPanel::showButtons() {
    std::set<std::string> files; // one may be used for several roles
    for (const project::OfferedPicture& picture : matched_->chosen()) files.insert(picture.path);
    const auto count = files.size();
    bind_->setText(tr("Bind %1").arg(qs(showCount(long(count), "picture", "pictures"))));
    bind_->setVisible(count > 0);
    relink_->setText(tr("Relink %1").arg(found_.moved.size()));
    relink_->setVisible(!found_.moved.empty());
    twofold_->setVisible(!found_.twofold.empty());
    moved_->setVisible(!found_.moved.empty());
}

void BindPanel::relink() {
    session_.editPiece(tr("relink pictures"), piece_, [&](project::Piece& piece) {
        piece = project::relinked(std::move(piece), found_.moved);
    });
    Q_EMIT session_.said(
        tr("Relinked %1.").arg(qs(showCount(long(found_.moved.size()), "picture", "pictures"))));
    found_.moved.clear();
    showButtons();
}

void BindPanel::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void BindPanel::dropEvent(QDropEvent* event) {
    QStringList paths;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) paths << url.toLocalFile();
    if (!paths.isEmpty()) look(paths);
}

} // namespace zl::app
