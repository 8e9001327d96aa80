#include "app/sheets/sheet_page.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"
#include "app/theme.h"
#include "app/widgets/leaving.h"
#include "app/widgets/ui.h"

#include "core/base/toml_text.h"
#include "core/base/units.h"
#include "core/platform/sheet_package.h"
#include "core/project/sheet_yardsticks.h"

#include <QButtonGroup>
#include <QCoreApplication>
#include <QFileDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTextBlock>
#include <QVBoxLayout>

namespace zl::app {

namespace {

constexpr const char* emptySheet = R"(id = "my-game"
name = "My game"
kind = "game"

[unit]
name = "m"
metres = 1

[axes]
up = "Y"
front = "+Z"

[figure]
height = 1.75

[[rule]]
id = "unit-known"
label = "Unit said"
severity = "should"
message = "Lengths mean nothing without it."
mend = ["unit-and-up"]
)";

} // namespace

SheetPage::SheetPage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), standing_(session), preview_(session) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
    auto* outer = new QHBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    outer->setSpacing(0);
    outer->addWidget(makeParts());
    outer->addWidget(makeMiddle(), 3);
    textSide_ = makeText();
    outer->addWidget(textSide_, 2);
    standingSoon_.setSingleShot(true);
    standingSoon_.setInterval(120);
    connect(&standingSoon_, &QTimer::timeout, this, [this] {
        if (draft_.sheet()) standing_.ask(draft_.sheet(), id_);
    });
    connect(&standing_, &SheetStanding::changed, this, &SheetPage::showStanding);
    connect(&preview_, &FilesPreview::changed, this, &SheetPage::showFiles);
    connect(&draft_, &SheetDraft::changed, this, &SheetPage::refresh);
    connect(&draft_.undo(), &QUndoStack::cleanChanged, this,
            [this] { save_->setEnabled(draft_.isChanged() && draft_.problem().isEmpty()); });
    showText(false);
}

QWidget* SheetPage::makeParts() {
    auto* box = new QFrame;
    box->setProperty("side", true);
    box->setFixedWidth(184);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(14, 20, 14, 16);
    column->setSpacing(4);
    name_ = headingLabel({}, 1);
    name_->setObjectName("sheetName");
    column->addWidget(name_);
    whose_ = textLabel({}, "dim");
    whose_->setObjectName("sheetOwner");
    column->addWidget(whose_);
    column->addSpacing(10);
    parts_ = new QButtonGroup(this);
    const auto add = [&](Part part, const char* id, const QString& title) {
        auto* one = button(title, "part");
        one->setObjectName(QString("part-") + id);
        one->setCheckable(true);
        parts_->addButton(one, int(part));
        column->addWidget(one);
    };
    add(Part::What, "what", tr("What it is"));
    add(Part::Frame, "frame", tr("Unit and axes"));
    add(Part::Limits, "limits", tr("Limits"));
    int part = int(Part::Names);
    for (const SheetPart& one : sheetParts())
        add(Part(part++), one.id, QCoreApplication::translate("Sheet", one.title));
    add(Part::Files, "files", tr("Files"));
    add(Part::Notes, "notes", tr("Notes"));
    add(Part::Evidence, "evidence", tr("Known from"));
    connect(parts_, &QButtonGroup::idClicked, this, [this](int part) { show(Part(part)); });
    column->addStretch(1);
    stands_ = textLabel({}, "dim");
    stands_->setObjectName("sheetStands");
    column->addWidget(stands_);
    return box;
}

QWidget* SheetPage::makeMiddle() {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(16, 16, 8, 14);
    column->setSpacing(8);
    problem_ = textLabel({}, "bad");
    problem_->setObjectName("sheetProblem");
    column->addWidget(problem_);
    form_ = scrolled(this, column);
    form_->setContentsMargins(0, 0, 10, 0);
    form_->setSpacing(10);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(10);
    textSwitch_ = button(tr("Text"));
    textSwitch_->setObjectName("sheetText");
    textSwitch_->setCheckable(true);
    textSwitch_->setToolTip(tr("Shows the sheet's text beside the form; both are one"));
    undo_ = button(tr("Undo"), "quiet", "undo-2");
    undo_->setObjectName("sheetUndo");
    auto* back = button(tr("Back"), "quiet");
    back->setObjectName("leaveSheet");
    save_ = button(tr("Save"), "main", "check");
    save_->setObjectName("saveSheet");
    auto* give = button(tr("Give away…"), "quiet", "package");
    give->setObjectName("exportSheet");
    give->setToolTip(
        tr("Writes the sheet with its templates as one file, for others to take in on Platforms"));
    connect(give, &QPushButton::clicked, this, &SheetPage::giveAway);
    foot->addWidget(textSwitch_);
    foot->addWidget(undo_);
    foot->addWidget(give);
    foot->addStretch(1);
    foot->addWidget(back);
    foot->addWidget(save_);
    column->addLayout(foot);
    connect(textSwitch_, &QPushButton::toggled, this, &SheetPage::showText);
    connect(undo_, &QPushButton::clicked, &draft_.undo(), &QUndoStack::undo);
    connect(back, &QPushButton::clicked, this, [this] {
        if (mayLeave()) Q_EMIT left();
    });
    connect(save_, &QPushButton::clicked, this, &SheetPage::save);
    return box;
}

QWidget* SheetPage::makeText() {
    text_ = codeBox("sheetTextEdit", tr("The sheet's text"));
    auto* typed = new QTimer(this);
    typed->setSingleShot(true);
    typed->setInterval(250);
    connect(text_, &QPlainTextEdit::textChanged, typed, qOverload<>(&QTimer::start));
    connect(typed, &QTimer::timeout, this, [this] { draft_.type(text_->toPlainText()); });
    return text_;
}

void SheetPage::open(const QString& sheet) {
    const SheetPointer own = session_.sheet(sheet.toStdString());
    id_ = own ? own->id : "";
    ships_ = own && ownerOf(*own, session_) == SheetOwner::Ships;
    part_ = own ? Part::Limits : Part::What;
    parts_->button(int(part_))->setChecked(true);
    try {
        draft_.begin(own ? qs(readText(own->file)) : QString(emptySheet),
                     own ? own->file : newSheetFolder(session_) / "my-game.toml");
    } catch (const Error& error) {
        problem_->setText(qs(error.whole()));
    }
}

void SheetPage::show(Part part) {
    part_ = part;
    parts_->button(int(part))->setChecked(true);
    rebuild();
}

void SheetPage::showText(bool shown) {
    textSide_->setVisible(shown);
    const QSignalBlocker quiet(textSwitch_);
    textSwitch_->setChecked(shown);
}

void SheetPage::refresh(bool typed) {
    if (!typed) {
        const QSignalBlocker quiet(text_);
        const int at = text_->textCursor().position();
        text_->setPlainText(draft_.text());
        QTextCursor cursor = text_->textCursor();
        cursor.setPosition(std::min(at, int(draft_.text().size())));
        text_->setTextCursor(cursor);
    }
    QList<QTextEdit::ExtraSelection> marks;
    if (draft_.problemLine() > 0) {
        QTextEdit::ExtraSelection mark;
        mark.cursor = QTextCursor(text_->document()->findBlockByNumber(draft_.problemLine() - 1));
        mark.format.setBackground(tokens().claySoft);
        mark.format.setProperty(QTextFormat::FullWidthSelection, true);
        marks << mark;
    }
    text_->setExtraSelections(marks);
    problem_->setVisible(!draft_.problem().isEmpty());
    problem_->setText(draft_.problemLine() > 0
                          ? tr("Line %1: %2").arg(draft_.problemLine()).arg(draft_.problem())
                          : draft_.problem());
    undo_->setEnabled(draft_.undo().canUndo());
    undo_->setToolTip(draft_.undo().canUndo() ? tr("Undo: %1").arg(draft_.undo().undoText())
                                              : tr("Nothing to undo"));
    save_->setEnabled(draft_.isChanged() && draft_.problem().isEmpty());
    rebuild();
    standingSoon_.start();
}

void SheetPage::rebuild() {
    const SheetPointer sheet = draft_.sheet();
    if (!sheet) return;
    name_->setText(qs(sheet->name));
    whose_->setText(ships_ && draft_.isChanged() ? tr("a copy of your own: the one that ships stays as it is")
                    : ships_                     ? tr("ships with the program; changes go into a copy")
                    : id_.empty()                ? tr("new, not saved yet")
                                                 : ownerWords(ownerOf(*session_.sheet(id_), session_)));
    const QWidget* had = focusWidget();
    const QString focus = had ? had->objectName() : QString(),
                  focusCard = had && had->parentWidget() ? had->parentWidget()->objectName() : QString();
    cards_.clear();
    made_.clear();
    previewProblem_ = nullptr;
    add_ = nullptr;
    clearLayout(form_);
    switch (part_) {
    case Part::What:
        fillWhat();
        break;
    case Part::Frame:
        fillFrame();
        break;
    case Part::Limits:
        fillLimits();
        break;
    case Part::Names:
    case Part::Pictures:
    case Part::Contact:
    case Part::Motion:
        fillSections(sheetParts()[std::size_t(part_) - std::size_t(Part::Names)]);
        break;
    case Part::Files:
        fillFiles();
        break;
    case Part::Notes:
        fillNotes();
        break;
    case Part::Evidence:
        fillEvidence();
        break;
    }
    form_->addStretch(1);
    showStanding();
    // The keyboard stays where it was.
    if (!focus.isEmpty() && had != text_)
        for (auto* widget : findChildren<QWidget*>(focus))
            if (focusCard.isEmpty() || widget->parentWidget()->objectName() == focusCard) {
                widget->setFocus();
                break;
            }
}

void SheetPage::showStanding() {
    for (LimitCard* card : cards_) card->showStanding(standing_);
    stands_->setText(standing_.fits().empty()
                         ? tr("No piece of the project to hold it against.")
                         : tr("%1 of %2 fit it as it is now.")
                               .arg(standing_.fitting())
                               .arg(qs(showCount(long(standing_.fits().size()), "piece", "pieces"))));
}

void SheetPage::giveAway() {
    const SheetPointer sheet = session_.sheet(id_);
    if (!sheet || draft_.isChanged()) {
        problem_->setText(tr("Save the sheet first: what is given away is what was saved."));
        problem_->show();
        return;
    }
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Give the sheet away"), qs(sheet->id) + ".zestsheet",
                                     tr("Sheets of Zest Loom (*.zestsheet)"));
    if (file.isEmpty()) return;
    try {
        const auto yardsticks = project::yardstickFiles(session_.project());
        writeFile(file.toStdString(), platform::packedSheet(*sheet, yardsticks));
        Q_EMIT session_.said(
            yardsticks.empty()
                ? tr("Wrote %1").arg(QFileInfo(file).fileName())
                : tr("Wrote %1, with the project's yardsticks").arg(QFileInfo(file).fileName()));
    } catch (const Error& error) {
        problem_->setText(qs(error.whole()));
        problem_->show();
    }
}

bool SheetPage::mayLeave() {
    if (!draft_.isChanged()) return true;
    const Leaving leaving = askHowToLeave(
        this, tr("The sheet \"%1\" has changes that are not saved.").arg(qs(draft_.sheet()->name)));
    if (leaving == Leaving::Save) save();
    return leaving == Leaving::Drop || (leaving == Leaving::Save && !draft_.isChanged());
}

void SheetPage::save() {
    if (QWidget* typing = focusWidget()) typing->clearFocus(); // what is typed there counts
    if (!draft_.problem().isEmpty() || !draft_.sheet()) return;
    try {
        std::filesystem::path file = draft_.sheet()->file;
        std::string id = id_;
        if (ships_ || id_.empty()) {
            // One that ships is never changed: a copy with a name and an id of its own is.
            QString name = qs(draft_.sheet()->name);
            if (ships_ && session_.sheet(id_) && session_.sheet(id_)->name == draft_.sheet()->name)
                name = tr("%1 of mine").arg(name);
            id = newSheetId(name, session_);
            draft_.edit(tr("save a copy"), [&](platform::SheetText& text) {
                text.set("", "id", tomlText(id));
                text.set("", "name", tomlText(name.toStdString()));
            });
            file = newSheetFolder(session_) / (id + ".toml");
        }
        platform::writeSheet(draft_.text().toStdString(), *draft_.sheet(), file);
        id_ = id, ships_ = false; // not before it lies there: until then another try makes a copy, too
        draft_.saved(file);
        session_.reloadSheets();
        rebuild();
        Q_EMIT saved(qs(id_));
    } catch (const Error& error) {
        problem_->setText(qs(error.whole()));
        problem_->show();
    }
}

void SheetPage::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Undo))
        draft_.undo().undo();
    else if (event->matches(QKeySequence::Redo))
        draft_.undo().redo();
    else if (event->matches(QKeySequence::Save))
        save();
    else if (event->key() == Qt::Key_Escape) {
        if (mayLeave()) Q_EMIT left();
    } else
        QWidget::keyPressEvent(event);
}

} // namespace zl::app
