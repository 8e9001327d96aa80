#include "app/pages/tryout_page.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"
#include "app/theme.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/mark.h"
#include "app/widgets/slider_rows.h"
#include "app/widgets/ui.h"

#include "core/platform/file_terms.h"
#include "core/contact/step_sound.h"
#include "core/upload/keyring.h"

#include <QApplication>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

namespace zl::app {

using standins::world::Action, standins::world::Choice, standins::world::Table;

namespace {

constexpr auto soundSetting = "sound";
constexpr int mostValueWidth = 150; ///< of a value in a table, in pixels

void showValue(ElidedLabel& label, const Table::Row& row, std::size_t value) {
    label.setText(qs(row.values[value]));
    restyle(&label, "bad", row.warning && value + 1 == row.values.size());
    const int most = row.values.size() > 1 ? mostValueWidth * 3 / 5 : mostValueWidth;
    label.setMinimumWidth(std::min(most, label.sizeHint().width()));
}

} // namespace

TryoutPage::TryoutPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    view_ = new TryoutView;
    view_->setObjectName("tryoutView");
    layout->addWidget(view_, 1);
    tools_ = new FlowRow(view_, Qt::BottomEdge);

    auto* panel = new QWidget;
    panel->setObjectName("sidePanel");
    panel->setAttribute(Qt::WA_StyledBackground);
    panel->setFixedWidth(336);
    auto* panelLayout = new QVBoxLayout(panel);
    panelLayout->setContentsMargins(16, 16, 6, 8);
    side_ = scrolled(panel, panelLayout);
    side_->setContentsMargins(0, 0, 10, 0);
    side_->setSpacing(8);
    auto* other = button(tr("Other files…"), nullptr, "folder-open");
    other->setObjectName("try-folder");
    other->setToolTip(tr("Try the files in another folder; one can also be dropped here"));
    connect(other, &QPushButton::clicked, this, &TryoutPage::askForFolder);
    visit_ = button(tr("Log in to a region…"));
    visit_->setObjectName("try-visit");
    visit_->setToolTip(tr("Look at what was uploaded, as the region's server gives it"));
    connect(visit_, &QPushButton::clicked, this, &TryoutPage::askForVisit);
    like_ = button(tr("Compare with…"));
    like_->setObjectName("try-like");
    like_->setToolTip(tr("Choose a folder of files that the game takes: both stand beside each other"));
    connect(like_, &QPushButton::clicked, this, [this] {
        const QString chosen =
            QFileDialog::getExistingDirectory(this, tr("Files that the game takes"), likeFolder_);
        if (chosen.isEmpty()) return;
        rememberExamples(sheet_->id, chosen);
        compareWith(chosen);
    });
    auto* others = new QHBoxLayout;
    others->addWidget(other);
    others->addWidget(like_);
    others->addWidget(visit_);
    others->addStretch(1);
    panelLayout->addLayout(others);
    layout->addWidget(panel);
    connect(view_, &TryoutView::viewFailed, &session_, &Session::said);
    connect(view_, &TryoutView::refusedPicture, &session_, &Session::said);
    connect(view_, &TryoutView::dressed, this, &TryoutPage::makeTools);
    connect(view_, &TryoutView::stepped, this, &TryoutPage::showWhatChanged);
    connect(view_, &TryoutView::stepped, this, &TryoutPage::playHeard);
    connect(&sounds_, &SoundPlayer::failed, this, [this](const QString& why) {
        if (std::exchange(noSound_, why) == why) return;
        Q_EMIT session_.said(tr("Nothing is heard, the words say it: no sound output (%1)").arg(why));
        makeTools();
    });
}

void TryoutPage::load(const QString& folder, const std::string& standIn, const SheetPointer& sheet) {
    const auto* chosen = standins::standInNamed(standIn);
    if (!chosen) return;
    folder_ = folder;
    visited_.clear();
    standIn_ = standIn;
    if (!sheet_ || !sheet || sheet_->id != sheet->id) likeFolder_.clear();
    sheet_ = sheet;
    const bool held = chosen->openUnder && sheet;
    platform::FileTerms terms = held ? platform::fileTerms(*sheet) : platform::FileTerms{};
    like_->setVisible(held);
    if (held && likeFolder_.isEmpty()) likeFolder_ = examplesOf(sheet->id);
    if (held) terms.like = likeFolder_.toStdString();
    visit_->setVisible(chosen->visit);
    const QString name = qs(std::string(chosen->calledFor(folder.toStdString())));
    announce(tr("The %1 is loading the files and trying them…").arg(name));
    view_->setMessage(tr("Loading %1").arg(folder));
    session_.jobs().start<Loaded>(
        tr("Trying on the %1").arg(name), this,
        [folder, chosen, held, terms](const Progress& progress) {
            Loaded loaded;
            loaded.how = held ? tr("its own readers, the sheet's limits; only the delivered files")
                              : tr("its own reader, its own limits; only the delivered files");
            loaded.what = tr("Only the files in \"%1\" are loaded.").arg(QDir(folder).dirName());
            progress.report(0.1, "loading the delivered files");
            loaded.arena = held ? chosen->openUnder(folder.toStdString(), terms, loaded.report)
                                : chosen->open(folder.toStdString(), loaded.report);
            return loaded;
        },
        [this, name, folder](const Loaded& loaded) {
            if (folder == folder_ && visited_.isEmpty())
                show(loaded, name); // otherwise another folder was chosen since
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked,
        [this, folder] {
            if (folder == folder_)
                view_->setMessage(tr("Loading was stopped. Press F5 to try the files again."));
        });
}

void TryoutPage::compareWith(const QString& folder) {
    likeFolder_ = folder;
    if (!folder_.isEmpty()) load(folder_, standIn_, sheet_);
}

void TryoutPage::announce(const QString& words) {
    ready_ = false;
    verdict_ = tables_ = nullptr;
    slidersCard_ = nullptr, sliders_ = nullptr;
    clearLayout(side_);
    side_->addWidget(textLabel(words, "dim"));
    side_->addStretch(1);
}

void TryoutPage::loadOther(const QString& folder) {
    load(folder, standIn_, sheet_);
}

void TryoutPage::askForFolder() {
    const QString chosen = QFileDialog::getExistingDirectory(this, tr("Folder of files to try"), folder_);
    if (!chosen.isEmpty()) loadOther(chosen);
}

void TryoutPage::askForPicture() {
    const QString file = QFileDialog::getOpenFileName(this, tr("A picture to put on it"), folder_,
                                                      tr("Pictures (*.png *.jpg *.jpeg *.tga)"));
    if (!file.isEmpty()) view_->dress(file);
}

void TryoutPage::act(const QString& id) {
    view_->act(id);
    const auto* arena = view_->arena();
    if (!arena) return;
    for (const Action& action : arena->actions()) { // such as Show and Hide
        const auto made = tools_->findChildren<QPushButton*>("try-" + qs(action.id));
        if (made.isEmpty() || made.last()->text() != qs(action.label)) return makeTools();
    }
}

void TryoutPage::makeTools() {
    const QWidget* held = QApplication::focusWidget();
    const QString focus = held && tools_->isAncestorOf(held) ? held->objectName() : QString();
    tools_->clear();
    auto* arena = view_->arena();
    tools_->setVisible(arena != nullptr);
    if (!arena) return;
    for (const Action& action : arena->actions()) {
        auto* made = button(qs(action.label));
        made->setObjectName("try-" + qs(action.id));
        made->setToolTip(qs(action.tip));
        if (!action.key.empty()) made->setShortcut(QKeySequence(qs(action.key)));
        connect(made, &QPushButton::clicked, this, [this, id = qs(action.id)] { act(id); });
        tools_->add(made);
    }
    if (const auto on = arena->takesPictureOn(); !on.empty()) {
        auto* made = button(tr("Picture for the %1…").arg(qs(on)), nullptr, "image");
        made->setObjectName("try-picture");
        made->setToolTip(
            tr("For the one that is chosen beside it; a picture can also be dropped onto the thing"));
        connect(made, &QPushButton::clicked, this, &TryoutPage::askForPicture);
        tools_->add(made);
    }
    for (const Choice& choice : arena->choices()) {
        auto* box = new QComboBox;
        box->setObjectName("try-" + qs(choice.id));
        box->setAccessibleName(qs(choice.name));
        box->setToolTip(qs(choice.name));
        for (const std::string& option : choice.options) box->addItem(qs(option));
        box->setCurrentIndex(choice.chosen);
        connect(box, &QComboBox::activated, view_,
                [this, id = qs(choice.id)](int option) { view_->choose(id, option); });
        tools_->add(box);
    }
    if (arena->isHeard()) addSoundSwitch();
    const auto named = focus.isEmpty() ? QWidgetList() : tools_->findChildren<QWidget*>(focus);
    if (!named.isEmpty()) named.last()->setFocus(); // the one before goes later
}

void TryoutPage::addSoundSwitch() {
    const bool on = QSettings().value(soundSetting, true).toBool();
    auto* made = button(on ? tr("Sound on") : tr("Sound off"), nullptr,
                        on && noSound_.isEmpty() ? "volume-2" : "volume-x");
    made->setObjectName("try-sound");
    made->setToolTip(!noSound_.isEmpty() ? tr("No sound output: %1").arg(noSound_)
                     : on                ? tr("Steps are heard, each surface as the platform has it")
                                         : tr("Steps are silent; the words say what they sound like"));
    connect(made, &QPushButton::clicked, this, [this, on] {
        QSettings().setValue(soundSetting, !on);
        noSound_.clear(); // it is tried again
        if (on) sounds_.hush();
        makeTools();
    });
    tools_->add(made);
}

void TryoutPage::playHeard() {
    auto* arena = view_->arena();
    if (!arena) return;
    const auto heard = arena->takeHeard();
    if (!QSettings().value(soundSetting, true).toBool()) return;
    for (const auto& one : heard) {
        sounds_.play(contact::stepSound(one.sound, one.step));
        Q_EMIT played(qs(one.sound));
    }
}

void TryoutPage::show(const Loaded& loaded, const QString& name) {
    clearLayout(side_);
    name_ = name, how_ = loaded.how;
    report_ = loaded.report;
    verdict_ = new QVBoxLayout;
    verdict_->setSpacing(8);
    side_->addLayout(verdict_);
    slidersCard_ = new QFrame;
    slidersCard_->setProperty("card", true);
    auto* sliding = new QVBoxLayout(slidersCard_);
    sliding->setContentsMargins(13, 10, 13, 12);
    sliders_ = new SliderRows;
    sliding->addWidget(sliders_);
    connect(sliders_, &SliderRows::moved, view_, &TryoutView::slide);
    slidersCard_->hide();
    side_->addWidget(slidersCard_);
    tables_ = new QVBoxLayout;
    tables_->setSpacing(8);
    side_->addLayout(tables_);
    if (loaded.arena)
        for (const std::string& note : loaded.arena->notes()) side_->addWidget(textLabel(qs(note), "dim"));
    side_->addStretch(1);
    view_->setArena(loaded.arena);
    view_->setMessage(loaded.arena ? loaded.what + (loaded.arena->physics().count() > 0
                                                        ? tr(" Drag a thing to carry it, let go to drop it.")
                                                        : QString())
                                   : tr("The files were refused; see why on the right."));
    makeTools();
    shown_.clear();
    saidVerdict_.clear();
    showWhatChanged();
    ready_ = true;
}

void TryoutPage::showWhatChanged() {
    if (!verdict_) return;
    showVerdict();
    showSliders();
    showTables();
}

void TryoutPage::showSliders() {
    const auto* arena = view_->arena();
    if (!slidersCard_ || !arena) return;
    std::vector<SliderRows::Row> rows;
    for (const auto& slider : arena->sliders())
        rows.push_back({qs(slider.id), qs(slider.label), slider.value});
    slidersCard_->setVisible(!rows.empty());
    sliders_->show(rows);
}

void TryoutPage::showVerdict() {
    const auto* arena = view_->arena();
    const bool checking = arena && arena->isChecking();
    const auto now = arena ? arena->verdictNow() : std::nullopt;
    const standins::TryReport& report = now ? *now : report_;
    QString said = checking ? "checking" : report.accepted ? "accepted" : "refused";
    if (!checking)
        for (const auto& message : report.messages)
            said += "\n" + qs(message.file) + "\n" + qs(message.text) + "\n" + qs(message.detail);
    if (said == saidVerdict_) return;
    saidVerdict_ = said;
    clearLayout(verdict_);
    auto* verdict = headingLabel(checking          ? tr("The %1 is checking…").arg(name_)
                                 : report.accepted ? tr("Accepted by the %1").arg(name_)
                                                   : tr("Refused by the %1").arg(name_),
                                 1);
    if (!checking) restyle(verdict, report.accepted ? "good" : "bad", true);
    verdict_->addWidget(verdict);
    verdict_->addWidget(textLabel(
        checking ? tr("each object waits for its turn; the verdict comes with the last") : how_, "dim"));
    if (checking) return;
    for (const auto& message : report.messages) {
        verdict_->addWidget(line());
        using Kind = standins::Message::Kind;
        const Mark mark = message.kind == Kind::Fine  ? Mark::Fits
                          : message.kind == Kind::Odd ? Mark::Tight
                                                      : Mark::Broken;
        verdict_->addLayout(markRow(
            mark,
            message.file.empty() ? qs(message.text) : tr("%1: %2").arg(qs(message.file), qs(message.text)),
            qs(message.detail)));
    }
}

void TryoutPage::showTables() {
    if (!tables_ || !view_->arena()) return;
    auto now = view_->arena()->tables();
    // Made anew only when a row came or went; a value that changes with every frame changes where it stands.
    const auto alike = [](const Table& a, const Table& b) {
        return a.title == b.title && std::ranges::equal(a.rows, b.rows, [](const auto& x, const auto& y) {
                   return x.name == y.name && x.values.size() == y.values.size();
               });
    };
    const bool stay = std::ranges::equal(now, shown_, alike);
    shown_ = std::move(now);
    if (stay) {
        std::size_t label = 0;
        for (const Table& table : shown_)
            for (const auto& row : table.rows)
                for (std::size_t i = 0; i < row.values.size(); ++i) showValue(*values_[label++], row, i);
        return;
    }
    values_.clear();
    clearLayout(tables_);
    for (const Table& table : shown_) {
        auto* card = new QFrame;
        card->setProperty("card", true);
        auto* grid = new QGridLayout(card);
        grid->setContentsMargins(13, 10, 13, 12);
        grid->setVerticalSpacing(6);
        grid->addWidget(headingLabel(qs(table.title), 2), 0, 0, 1, table.columns.empty() ? -1 : 1);
        int column = 1;
        for (const std::string& head : table.columns) {
            auto* label = textLabel(qs(head), "dim");
            label->setAlignment(Qt::AlignRight);
            label->setWordWrap(false);
            grid->addWidget(label, 0, column++);
        }
        int row = 1;
        for (const auto& line : table.rows) {
            grid->addWidget(textLabel(qs(line.name)), row, 0);
            for (std::size_t i = 0; i < line.values.size(); ++i) {
                auto* label = new ElidedLabel; // a file's name may be long
                label->setElide(Qt::ElideMiddle);
                label->setAlignment(Qt::AlignRight);
                label->setFont(Theme::instance().text(13, 600));
                showValue(*label, line, i);
                values_.push_back(label);
                grid->addWidget(label, row, int(i) + 1);
            }
            ++row;
        }
        grid->setColumnStretch(0, 1);
        tables_->addWidget(card);
    }
}

} // namespace zl::app
