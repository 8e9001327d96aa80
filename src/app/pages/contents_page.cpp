#include "app/pages/contents_page.h"

#include "app/pages/archive_lock.h"
#include "app/pages/chosen_files.h"
#include "app/pages/matched_pictures.h"
#include "app/pages/peek.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/files/take_out.h"

#include <QCheckBox>
#include <QFileDialog>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollBar>
#include <QSettings>
#include <QTreeView>
#include <QVBoxLayout>

namespace zl::app {

using formats::FileKind;

ContentsPage::ContentsPage(Session& session, QWidget* parent) : SourcePage(session, parent) {
    auto* finding = makeSide();
    fillFacts(layOut(finding, makeList()));
    for (QTimer* timer : {&laySoon_, &peekSoon_}) timer->setSingleShot(true);
    laySoon_.setInterval(60), peekSoon_.setInterval(80);
    connect(&disk_, &DiskWatch::changed, this, [this](const DiskChanges& changes) {
        if (isVisible() && !(changes.rewritten + changes.back).isEmpty()) read();
    });
    connect(&laySoon_, &QTimer::timeout, this, &ContentsPage::lay);
    connect(&peekSoon_, &QTimer::timeout, this, &ContentsPage::peekNext);
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        tree_->forgetPeeked();
        peekSoon_.start();
    });
}

QWidget* ContentsPage::makeSide() {
    QVBoxLayout* side = nullptr;
    auto* box = makeFinding("contents", tr("Find a file…"), 232, side);
    side->addSpacing(6);
    side->addWidget(headingLabel(tr("Kind"), 2));
    for (const FileKind kind :
         {FileKind::Model, FileKind::Picture, FileKind::Archive, FileKind::Text, FileKind::Other}) {
        auto* tick = new QCheckBox;
        tick->setObjectName("kind-" + qs(formats::kindName(kind)));
        tick->setChecked(true);
        connect(tick, &QCheckBox::toggled, this, [this] { laySoon_.start(); });
        side->addWidget(tick);
        kinds_[kind] = tick;
    }
    auto* rest = scrolled(this, side);
    rest->setContentsMargins(0, 8, 0, 0);
    refused_ = textLabel({}, "dim");
    refused_->setObjectName("contentsRefused");
    rest->addWidget(refused_);
    rest->addStretch(1);
    side->addWidget(makeBack("leaveContents"), 0, Qt::AlignLeft);
    connect(words_, &QLineEdit::textChanged, this, [this] { laySoon_.start(); });
    connect(words_, &QLineEdit::returnPressed, this, [this] {
        view_->setFocus();
        if (!view_->currentIndex().isValid()) view_->setCurrentIndex(tree_->index(0, 0));
    });
    return box;
}

QWidget* ContentsPage::makeList() {
    auto* box = new QWidget;
    auto* layout = new QVBoxLayout(box);
    layout->setContentsMargins(14, 14, 14, 10);
    layout->setSpacing(8);
    trouble_ = new QFrame;
    trouble_->setProperty("card", true);
    auto* words = new QVBoxLayout(trouble_);
    words->setContentsMargins(14, 12, 14, 12);
    problem_ = textLabel({}, "bad");
    problem_->setObjectName("contentsProblem");
    words->addWidget(problem_);
    trust_ = button(tr("Open it all the same"));
    trust_->setObjectName("trustArchive");
    trust_->setToolTip(tr("Reads past the limits, for as long as the program runs; only for an archive that "
                          "you trust"));
    words->addWidget(trust_, 0, Qt::AlignLeft);
    layout->addWidget(trouble_);
    tree_ = new ContentsTree(this);
    view_ = new QTreeView;
    view_->setObjectName("contentsTree");
    view_->setModel(tree_);
    view_->setUniformRowHeights(true);
    view_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    view_->setAllColumnsShowFocus(true);
    view_->setIconSize({40, 28});
    view_->setTextElideMode(Qt::ElideMiddle);
    view_->setIndentation(18);
    view_->setAccessibleName(tr("Contents of the archive"));
    auto* head = view_->header();
    head->setStretchLastSection(false);
    head->setSectionResizeMode(ContentsTree::Name, QHeaderView::Stretch);
    for (const auto& [section, width] : {std::pair{int(ContentsTree::Kind), 70},
                                         {int(ContentsTree::Size), 80},
                                         {int(ContentsTree::Triangles), 84}}) {
        head->setSectionResizeMode(section, QHeaderView::Fixed);
        head->resizeSection(section, width);
    }
    layout->addWidget(view_, 1);
    empty_ = textLabel({}, "dim");
    empty_->setObjectName("contentsEmpty");
    layout->addWidget(empty_);
    connect(trust_, &QPushButton::clicked, this, [this] {
        files::trust(file_.toStdString());
        read();
    });
    connect(view_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &ContentsPage::showChosen);
    connect(tree_, &QAbstractItemModel::dataChanged, this, &ContentsPage::showChosen);
    connect(view_, &QTreeView::activated, this, [this](const QModelIndex& row) {
        const int held = tree_->heldAt(row);
        if (held >= 0 && tree_->kindAt(held) == FileKind::Model) makePieces();
    });
    const auto look = [this] { peekSoon_.start(); };
    connect(view_->verticalScrollBar(), &QScrollBar::valueChanged, this, look);
    connect(view_, &QTreeView::expanded, this, look);
    connect(tree_, &QAbstractItemModel::modelReset, this, look);
    return box;
}

void ContentsPage::fillFacts(QVBoxLayout* facts) {
    lock_ = new ArchiveLock(session_, this);
    facts->addWidget(lock_);
    connect(lock_, &ArchiveLock::unlocked, this, [this] {
        view_->setFocus();
        read(); // archives within it may open now
    });
    auto* rest = scrolled(this, facts);
    rest->setContentsMargins(0, 0, 8, 0);
    rest->setSpacing(14);
    chosen_ = new ChosenFiles;
    rest->addWidget(chosen_);
    matched_ = new MatchedPictures;
    rest->addWidget(matched_);
    rest->addStretch(1);
    connect(matched_, &MatchedPictures::changed, this, [this] {
        if (const int held = chosenModel(); held >= 0) wears_[held] = matched_->chosen();
    });
    pieces_ = button({}, "main", "plus");
    pieces_->setObjectName("makePieces");
    pieces_->setToolTip(tr("Adds the chosen models to the project. They stay linked: when the archive is "
                           "replaced, they are read again (Enter)"));
    take_ = button({}, nullptr, "folder-open");
    take_->setObjectName("takeOut");
    take_->setToolTip(tr("Writes the chosen files into a folder of yours; nothing there is written over"));
    facts->addWidget(pieces_);
    facts->addWidget(take_);
    connect(pieces_, &QPushButton::clicked, this, &ContentsPage::makePieces);
    connect(take_, &QPushButton::clicked, this, &ContentsPage::takeOut);
}

void ContentsPage::open(const QString& archive) {
    file_ = archive;
    disk_.clear();
    disk_.watch({archive.toStdString()});
    contents_ = std::make_shared<files::Contents>();
    tree_->forgetPeeked();
    tree_->show(contents_, ContentsTree::lay(*contents_, {}));
    const QSignalBlocker quiet(words_);
    words_->clear();
    read();
    words_->setFocus();
}

void ContentsPage::read() {
    struct Read {
        files::Contents contents;
        std::shared_ptr<const project::PictureShelf> shelf;
        QString problem;
        bool overLimit = false;
    };
    trouble_->hide();
    lock_->hide();
    empty_->setText(tr("Reading what it holds…"));
    showChosen();
    if (reading_) reading_->cancel();
    reading_ = session_.jobs().start<Read>(
        tr("Looking into %1").arg(QFileInfo(file_).fileName()), this,
        [file = std::filesystem::path(file_.toStdString()), endings = endings()](const Progress& progress) {
            Read read;
            try {
                read.contents = files::contentsOf(file, files::termsOf(file), progress);
                read.shelf = shelfOf(read.contents, endings);
            } catch (const files::OverLimit& error) {
                read.problem = qs(error.whole()), read.overLimit = true;
            } catch (const Error& error) {
                read.problem = qs(error.whole());
            }
            return read;
        },
        [this, archive = file_](Read read) {
            if (archive != file_) return;
            reading_ = nullptr;
            contents_ = std::make_shared<files::Contents>(std::move(read.contents));
            tree_->forgetPeeked(); // it goes by their places in the list
            wears_.clear();
            shelf_ = std::move(read.shelf);
            tree_->setUnlocked(files::termsOf(archive.toStdString()).key != nullptr);
            if (!read.problem.isEmpty()) showProblem(read.problem, read.overLimit);
            showKinds();
            lock_->show(file_, contents_);
            lay();
        },
        [this](const QString& problem) { showProblem(problem, false); }, Urgency::Asked,
        [this] { showProblem(tr("Stopped before all was read."), false); });
}

void ContentsPage::lay() {
    ContentsFilter filter{words_->text(), {}};
    for (const auto& [kind, tick] : kinds_)
        if (tick->isChecked()) filter.kinds.insert(kind);
    if (laying_) laying_->cancel();
    laying_ = session_.jobs().start<ContentsTree::Laid>(
        tr("Laying out the contents"), this,
        [contents = contents_, filter](const Progress& progress) {
            return ContentsTree::lay(*contents, filter, progress);
        },
        [this, contents = contents_](ContentsTree::Laid laid) {
            laying_ = nullptr;
            if (contents != contents_) return;
            count_->setText(laid.files == contents->held.size()
                                ? qs(showCount(long(laid.files), "file", "files"))
                                : tr("%1 of %2")
                                      .arg(qs(showNumber(double(laid.files), 0)),
                                           qs(showNumber(double(contents->held.size()), 0))));
            empty_->setText(laid.files > 0 || trouble_->isVisibleTo(this) ? QString()
                            : contents->held.empty()                      ? tr("There is no file in it.")
                                                     : tr("No file in it is called or shown so. Clear the "
                                                          "field or tick more kinds."));
            empty_->setVisible(!empty_->text().isEmpty());
            tree_->show(contents, std::move(laid));
            if (tree_->isSmall())
                view_->expandAll();
            else if (tree_->rowCount() == 1)
                view_->expand(tree_->index(0, 0));
            showChosen();
        },
        [](const QString&) {}, Urgency::Asked);
}

void ContentsPage::showKinds() {
    std::map<FileKind, long> counts;
    for (const files::Held& held : contents_->held) ++counts[formats::kindOf(held.path)];
    for (const auto& [kind, tick] : kinds_) {
        const QString words = kind == FileKind::Model     ? tr("Models")
                              : kind == FileKind::Picture ? tr("Pictures")
                              : kind == FileKind::Archive ? tr("Archives")
                              : kind == FileKind::Text    ? tr("Texts")
                                                          : tr("Others");
        tick->setText(QString("%1  %2").arg(words, qs(showNumber(double(counts[kind]), 0))));
        tick->setVisible(counts[kind] > 0);
    }
    constexpr std::size_t most = 12;
    QStringList lines;
    for (const files::Passed& passed : contents_->refused) {
        if (std::size_t(lines.size()) == most) break;
        lines << tr("%1: %2").arg(qs(passed.path), qs(passed.why));
    }
    const std::size_t all = contents_->refused.size();
    refused_->setVisible(all > 0);
    if (all > most) lines << tr("and %1 more").arg(all - most);
    refused_->setText(breakable(tr("%1 not shown:").arg(qs(showCount(long(all), "entry", "entries"))) + "\n" +
                                lines.join("\n")));
}

void ContentsPage::showProblem(const QString& problem, bool canTrust) {
    reading_ = nullptr;
    problem_->setText(breakable(problem));
    trust_->setVisible(canTrust);
    trouble_->show();
    empty_->clear();
    empty_->hide();
}

QString ContentsPage::pathOf(int held) const {
    return file_ + "/" + qs(contents_->held[std::size_t(held)].path);
}

QModelIndexList ContentsPage::chosenRows() const {
    return view_->selectionModel()->selectedRows();
}

std::vector<int> ContentsPage::chosenModels() const {
    auto chosen = tree_->filesAt(chosenRows(), true);
    std::erase_if(chosen, [this](int held) { return tree_->kindAt(held) != FileKind::Model; });
    return chosen;
}

void ContentsPage::showChosen() {
    const auto rows = chosenRows();
    const auto files = tree_->filesAt(rows, false);
    const auto models = chosenModels();
    chosen_->show(*tree_, rows, files, models.size());
    showMatched();
    if (rows.size() == 1 && files.size() == 1 && !tree_->peeked(files[0])) peekSoon_.start();
    pieces_->setEnabled(!models.empty());
    pieces_->setText(models.empty()
                         ? tr("Make a piece of it")
                         : tr("Make %1").arg(qs(showCount(long(models.size()), "piece", "pieces"))));
    take_->setEnabled(!files.empty());
    take_->setText(
        files.empty()
            ? tr("Take out into a folder…")
            : tr("Take %1 out into a folder…").arg(qs(showCount(long(files.size()), "file", "files"))));
}

int ContentsPage::chosenModel() const {
    const auto rows = chosenRows();
    const int held = rows.size() == 1 ? tree_->heldAt(rows[0]) : -1;
    return held >= 0 && tree_->kindAt(held) == FileKind::Model ? held : -1;
}

void ContentsPage::showMatched() {
    constexpr std::size_t most = 24;
    const int held = chosenModel();
    const Peeked* known = held < 0 ? nullptr : tree_->peeked(held);
    if (!known || !known->clothing || !shelf_) return matched_->hideAll();
    const std::string& path = contents_->held[std::size_t(held)].path;
    const auto offered = shelf_->matching(path, *known->clothing);
    const auto changed = wears_.find(held);
    matched_->show(changed == wears_.end() ? offered : changed->second, offered,
                   shelf_->left(path, *known->clothing, offered, most));
}

} // namespace zl::app
