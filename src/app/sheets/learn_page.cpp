#include "app/sheets/learn_page.h"

#include "app/qt_text.h"
#include "app/sheets/learn_words.h"
#include "app/sheets/sheet_places.h"
#include "app/theme.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/file_look.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/learn/sheet_from.h"

#include <QDesktopServices>
#include <QFileDialog>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLineEdit>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTimer>
#include <QTreeWidget>
#include <QUrl>
#include <QVBoxLayout>

namespace zl::app {

namespace {

enum Column { What, SeenThere, Offered };

} // namespace

LearnPage::LearnPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
    auto* outer = new QHBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    outer->setSpacing(0);
    auto* middle = new QWidget;
    auto* column = new QVBoxLayout(middle);
    column->setContentsMargins(28, 22, 18, 18);
    column->setSpacing(10);
    column->addWidget(makeHead());
    table_ = new QTreeWidget;
    table_->setObjectName("evidence");
    table_->setAccessibleName(tr("What the files have in common"));
    table_->setHeaderLabels({tr("What"), tr("Seen"), tr("For the sheet")});
    table_->setRootIsDecorated(false);
    table_->setUniformRowHeights(true);
    table_->setAllColumnsShowFocus(true);
    table_->header()->setStretchLastSection(true);
    table_->setColumnWidth(What, 290);
    table_->setColumnWidth(SeenThere, 220);
    column->addWidget(table_, 1);
    state_ = textLabel({}, "dim");
    state_->setObjectName("learnState");
    column->addWidget(state_);
    auto* foot = new QHBoxLayout;
    unreadable_ = button({}, "quiet");
    unreadable_->setObjectName("unreadable");
    auto* back = button(tr("Back"), "quiet");
    back->setObjectName("leaveLearn");
    make_ = button(tr("Make the sheet"), "main", "check");
    make_->setObjectName("makeSheet");
    foot->addWidget(unreadable_);
    foot->addStretch(1);
    foot->addWidget(back);
    foot->addWidget(make_);
    column->addLayout(foot);
    outer->addWidget(middle, 1);
    outer->addWidget(makeSide());
    connect(back, &QPushButton::clicked, this, &LearnPage::left);
    connect(make_, &QPushButton::clicked, this, &LearnPage::make);
    connect(unreadable_, &QPushButton::clicked, this, &LearnPage::showUnreadable);
    connect(table_, &QTreeWidget::currentItemChanged, this, &LearnPage::showProperty);
    connect(table_, &QTreeWidget::itemChanged, this, &LearnPage::refreshWords);
    connect(name_, &QLineEdit::textChanged, this, &LearnPage::refreshWords);
    refreshWords();
}

QWidget* LearnPage::makeHead() {
    auto* box = new QWidget;
    auto* layout = new QVBoxLayout(box);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    layout->addWidget(headingLabel(tr("A sheet from files that the game takes"), 3));
    const auto row = [&](const QString& words, QLabel*& label, const char* name, bool refused) {
        auto* line = new QHBoxLayout;
        line->setSpacing(10);
        auto* title = textLabel(words, "dim");
        title->setFixedWidth(110);
        title->setWordWrap(false);
        line->addWidget(title);
        auto* where = new ElidedLabel;
        where->setElide(Qt::ElideMiddle);
        where->setObjectName(name);
        label = where;
        line->addWidget(where, 1);
        const auto pick = [&](const QString& what, const char* icon, const char* kind, bool archive) {
            auto* made = button(what, nullptr, icon);
            made->setObjectName(QString(name) + kind);
            connect(made, &QPushButton::clicked, this,
                    [this, refused, archive] { choosePlace(refused, archive); });
            line->addWidget(made);
        };
        pick(tr("Folder…"), "folder-open", "Choose", false);
        pick(tr("Archive…"), "package", "Archive", true);
        layout->addLayout(line);
    };
    auto* line = new QHBoxLayout;
    line->setSpacing(10);
    auto* title = textLabel(tr("Game"), "dim");
    title->setFixedWidth(110);
    line->addWidget(title);
    name_ = new QLineEdit;
    name_->setObjectName("gameName");
    name_->setPlaceholderText(tr("What the game is called"));
    name_->setMaximumWidth(360);
    line->addWidget(name_, 1);
    line->addStretch(1);
    layout->addLayout(line);
    row(tr("It takes"), acceptedWords_, "acceptedFiles", false);
    row(tr("It refused"), refusedWords_, "refusedFiles", true);
    return box;
}

QWidget* LearnPage::makeSide() {
    QVBoxLayout* side = nullptr;
    auto* box = sideColumn(340, side);
    title_ = headingLabel({}, 2);
    title_->setObjectName("propertyTitle");
    side->addWidget(title_);
    offer_ = textLabel({});
    offer_->setObjectName("propertyOffer");
    side->addWidget(offer_);
    look_ = new FileLook(session_.jobs());
    look_->setFixedHeight(210);
    look_->hide();
    side->addWidget(look_);
    files_ = new QListWidget;
    files_->setObjectName("propertyFiles");
    files_->setAccessibleName(tr("Files behind it"));
    files_->setTextElideMode(Qt::ElideMiddle);
    files_->setLayoutMode(QListView::Batched); // hundreds of rows must not hold up the window
    files_->setBatchSize(40);
    side->addWidget(files_, 1);
    side->addWidget(textLabel(tr("Enter or a double click opens a file's folder."), "dim"));
    connect(files_, &QListWidget::currentItemChanged, this, &LearnPage::showFile);
    connect(files_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
        const QString path = item->data(Qt::UserRole).toString();
        if (!path.isEmpty()) QDesktopServices::openUrl(QUrl::fromLocalFile(QFileInfo(path).absolutePath()));
    });
    return box;
}

void LearnPage::choosePlace(bool refused, bool archive) {
    const QString title = refused ? tr("Files that the game refused") : tr("Files that the game takes");
    const QString last = refused ? refused_ : accepted_;
    const QString chosen = archive ? QFileDialog::getOpenFileName(this, title, last)
                                   : QFileDialog::getExistingDirectory(this, title, last);
    if (chosen.isEmpty()) return;
    (refused ? refused_ : accepted_) = chosen;
    if (!refused && name_->text().trimmed().isEmpty()) name_->setText(QFileInfo(chosen).completeBaseName());
    read();
}

void LearnPage::learn(const QString& accepted, const QString& refused) {
    accepted_ = accepted, refused_ = refused;
    name_->setText(QFileInfo(accepted).completeBaseName());
    read();
}

void LearnPage::read() {
    if (reading_) reading_->cancel();
    evidence_.reset();
    table_->clear(), files_->clear();
    title_->clear(), offer_->clear(), look_->hide();
    refreshWords();
    if (accepted_.isEmpty()) return;
    using Found = std::shared_ptr<learn::Evidence>;
    state_->setText(tr("Looking at every file…"));
    reading_ = session_.jobs().start<Found>(
        tr("Learning from %1").arg(QFileInfo(accepted_).fileName()), this,
        [accepted = accepted_.toStdString(), refused = refused_.toStdString()](const Progress& progress) {
            return std::make_shared<learn::Evidence>(learn::evidenceOf({accepted, refused}, progress));
        },
        [this](const Found& found) {
            reading_ = nullptr;
            show(found);
        },
        [this](const QString& problem) {
            reading_ = nullptr;
            refreshWords();
            state_->setText(problem);
        },
        Urgency::Asked,
        [this] {
            reading_ = nullptr;
            refreshWords();
            state_->setText(tr("Stopped. Choose the files again to go on."));
        });
    connect(reading_, &Job::progressed, this, [this] {
        if (reading_)
            state_->setText(tr("%1 %: %2").arg(int(100 * reading_->fraction())).arg(reading_->what()));
    });
}

void LearnPage::show(const std::shared_ptr<learn::Evidence>& evidence) {
    evidence_ = evidence;
    const QSignalBlocker quiet(table_);
    // What is sure first, then what may be, then what was only seen.
    for (const int rank : {0, 1, 2})
        for (std::size_t i = 0; i < evidence->properties.size(); ++i) {
            const learn::Property& property = evidence->properties[i];
            const int own = !saysAnything(property) ? 2 : property.offered->isSure ? 0 : 1;
            if (own != rank) continue;
            auto* item =
                new QTreeWidgetItem(table_, {qs(property.label), seenWords(property),
                                             property.offered ? offeredWords(*property.offered) : QString()});
            item->setData(What, Qt::UserRole, int(i));
            if (saysAnything(property)) {
                item->setCheckState(What, rank == 0 ? Qt::Checked : Qt::Unchecked);
                item->setToolTip(Offered, qs(property.offered->confidence));
            }
            for (int c = 0; c < 3; ++c) item->setSizeHint(c, QSize(0, 24));
            if (!property.outliers.empty())
                item->setToolTip(SeenThere,
                                 tr("%1 unlike the others")
                                     .arg(qs(showCount(long(property.outliers.size()), "file", "files"))));
        }
    if (table_->topLevelItemCount() > 0) table_->setCurrentItem(table_->topLevelItem(0));
    refreshWords();
    table_->setFocus();
    // The files behind it in a turn of their own: both together hold the window for longer than one may notice.
    QTimer::singleShot(0, this, [this] {
        if (table_->currentItem()) showProperty();
    });
}

void LearnPage::choose(const QString& property) {
    for (int i = 0; i < table_->topLevelItemCount(); ++i) {
        auto* item = table_->topLevelItem(i);
        if (qs(evidence_->properties[std::size_t(item->data(What, Qt::UserRole).toInt())].id) == property)
            table_->setCurrentItem(item);
    }
}

void LearnPage::showProperty() {
    const auto* item = table_->currentItem();
    files_->clear();
    look_->hide();
    if (!item || !evidence_) return;
    const learn::Property& property =
        evidence_->properties[std::size_t(item->data(What, Qt::UserRole).toInt())];
    title_->setText(breakable(qs(property.label)));
    offer_->setText(property.offered
                        ? breakable(qs(property.offered->confidence))
                        : tr("Nothing that a sheet could ask for; the files say only what they are."));
    constexpr int most = 400; // nobody looks at more
    const QIcon no = Theme::instance().icon("x", tokens().clay),
                unlike = Theme::instance().icon("triangle-alert", tokens().amber),
                yes = Theme::instance().icon("check", tokens().leaf);
    const auto add = [&](const learn::Seen& seen, bool refused) {
        if (files_->count() >= most) return;
        const learn::FileFacts& file = evidence_->files[seen.file];
        const QString value = !seen.text.empty()    ? qs(seen.text)
                              : property.isNumber() ? qs(showMeasure(seen.value)) + " " + qs(property.unit)
                                                    : QString();
        auto* line = new QListWidgetItem(
            qs(file.path) + (value.isEmpty() || value == qs(file.path) ? "" : "\n" + value), files_);
        const bool odd = std::ranges::find(property.outliers, seen.file) != property.outliers.end();
        line->setIcon(refused ? no : odd ? unlike : yes);
        line->setToolTip(refused ? tr("The game refused it")
                         : odd   ? tr("Unlike the others")
                                 : tr("The game takes it"));
        line->setData(Qt::UserRole,
                      qs(((refused ? evidence_->refusedRoot : evidence_->root) / file.path).string()));
    };
    for (const auto& seen : property.refused) add(seen, true);
    for (auto seen = property.accepted.rbegin(); seen != property.accepted.rend(); ++seen) add(*seen, false);
}

void LearnPage::showFile() {
    const auto* item = files_->currentItem();
    look_->setVisible(item != nullptr);
    if (item) look_->show(std::filesystem::path(item->data(Qt::UserRole).toString().toStdString()));
}

void LearnPage::showUnreadable() {
    if (!evidence_) return;
    table_->setCurrentItem(nullptr);
    title_->setText(tr("Files that could not be read"));
    offer_->setText(tr("They say nothing of the game's limits."));
    files_->clear();
    for (const auto& passed : evidence_->unreadable) {
        auto* line = new QListWidgetItem(qs(passed.path) + "\n" + qs(passed.why), files_);
        line->setIcon(Theme::instance().icon("triangle-alert", tokens().amber));
        line->setData(Qt::UserRole, qs((evidence_->root / passed.path).string()));
    }
}

std::set<std::string> LearnPage::taken() const {
    std::set<std::string> out;
    for (int i = 0; i < table_->topLevelItemCount(); ++i) {
        const auto* item = table_->topLevelItem(i);
        const auto& property = evidence_->properties[std::size_t(item->data(What, Qt::UserRole).toInt())];
        if (saysAnything(property) && item->checkState(What) == Qt::Checked) out.insert(property.id);
    }
    return out;
}

void LearnPage::refreshWords() {
    acceptedWords_->setText(
        accepted_.isEmpty()
            ? tr("Drop a folder or an archive here, or choose one: files that are known to work.")
            : accepted_);
    refusedWords_->setText(refused_.isEmpty() ? tr("None; a few that it refused make limits exact.")
                                              : refused_);
    const auto count = evidence_ ? taken().size() : 0;
    const std::size_t unreadable = evidence_ ? evidence_->unreadable.size() : 0;
    unreadable_->setVisible(unreadable > 0);
    unreadable_->setText(tr("%1 could not be read").arg(qs(showCount(long(unreadable), "file", "files"))));
    make_->setEnabled(count > 0 && !name_->text().trimmed().isEmpty());
    if (evidence_)
        state_->setText(tr("%1, %2 of %3 for the sheet")
                            .arg(qs(showCount(long(evidence_->files.size()), "file", "files")))
                            .arg(count)
                            .arg(std::ranges::count_if(evidence_->properties, saysAnything)));
    else if (!reading_)
        state_->setText({});
}

void LearnPage::make() {
    try {
        const QString name = name_->text().trimmed();
        const std::string id = newSheetId(name, session_);
        const std::string text =
            learn::sheetFrom(*evidence_,
                             {id,
                              name.toStdString(),
                              {},
                              tr("Learnt from %1.")
                                  .arg(qs(showCount(long(evidence_->files.size()), "file", "files")))
                                  .toStdString()},
                             taken());
        const auto folder = newSheetFolder(session_);
        std::filesystem::create_directories(folder);
        writeFile(folder / (id + ".toml"), text);
        rememberExamples(id, accepted_);
        session_.reloadSheets();
        if (!session_.sheet(id)) throw Error(session_.sheetProblems().join("\n").toStdString());
        Q_EMIT made(qs(id));
    } catch (const std::exception& problem) {
        state_->setText(qs(wordsOf(problem)));
    }
}

void LearnPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape)
        Q_EMIT left();
    else
        QWidget::keyPressEvent(event);
}

} // namespace zl::app
