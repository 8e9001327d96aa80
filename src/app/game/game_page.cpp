#include "app/game/game_page.h"

#include "app/game/answer_row.h"
#include "app/game/log_panel.h"
#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"
#include "app/widgets/mark.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/platform/sheet_known.h"

#include <QCheckBox>
#include <QDate>
#include <QDir>
#include <QFrame>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

QFrame* card(QVBoxLayout*& column) {
    auto* box = new QFrame;
    box->setProperty("card", true);
    column = new QVBoxLayout(box);
    column->setContentsMargins(14, 10, 14, 10);
    column->setSpacing(4);
    return box;
}

} // namespace

GamePage::GamePage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(28, 22, 18, 18);
    columns->setSpacing(26);
    columns->addWidget(makeAnswer(), 1);
    log_ = new LogPanel(session_);
    connect(log_, &LogPanel::ruleAsked, this, &GamePage::ruleAsked);
    columns->addWidget(log_, 1);
    connect(&session_, &Session::projectChanged, this, [this] {
        if (isVisible()) showReasons(), showEarlier();
    });
}

QWidget* GamePage::makeAnswer() {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    title_ = headingLabel({}, 3);
    title_->setObjectName("gameTitle");
    column->addWidget(title_);
    files_ = textLabel({}, "dim");
    files_->setObjectName("gameFiles");
    column->addWidget(files_);
    auto* choice = new QHBoxLayout;
    choice->setSpacing(10);
    accepted_ = button(tr("The game took it"));
    accepted_->setObjectName("gameAccepted");
    refused_ = button(tr("The game refused it"));
    refused_->setObjectName("gameRefused");
    for (QPushButton* one : {accepted_, refused_}) {
        one->setCheckable(true);
        choice->addWidget(one);
    }
    choice->addStretch(1);
    column->addLayout(choice);
    because_ = new QLineEdit;
    because_->setObjectName("gameBecause");
    because_->setPlaceholderText(tr("Because… as the game says it"));
    column->addWidget(because_);
    note_ = new QLineEdit;
    note_->setObjectName("gameNote");
    note_->setPlaceholderText(tr("A note for later, where there is anything to note"));
    column->addWidget(note_);
    auto* body = scrolled(box, column);
    body->setContentsMargins(0, 0, 10, 0);
    body->setSpacing(8);
    reasons_ = new QVBoxLayout;
    reasons_->setSpacing(8);
    body->addLayout(reasons_);
    earlier_ = new QVBoxLayout;
    earlier_->setSpacing(8);
    body->addLayout(earlier_);
    body->addStretch(1);
    auto* foot = new QHBoxLayout;
    auto* back = button(tr("Back"), "quiet");
    back->setObjectName("leaveGame");
    keep_ = button(tr("Keep the answer"), "main", "check");
    keep_->setObjectName("keepAnswer");
    foot->addWidget(back);
    foot->addStretch(1);
    foot->addWidget(keep_);
    column->addLayout(foot);
    connect(accepted_, &QPushButton::clicked, this,
            [this](bool on) { say(on ? Said::Accepted : Said::Nothing); });
    connect(refused_, &QPushButton::clicked, this,
            [this](bool on) { say(on ? Said::Refused : Said::Nothing); });
    connect(back, &QPushButton::clicked, this, &GamePage::left);
    connect(keep_, &QPushButton::clicked, this, &GamePage::keep);
    return box;
}

void GamePage::open(const QString& piece, const QString& platform, const QString& folder) {
    const auto sheet = session_.sheet(platform.toStdString());
    if (!sheet) return;
    piece_ = piece, platform_ = platform, folder_ = folder;
    title_->setText(tr("What %1 said of %2").arg(qs(sheet->name), piece));
    because_->clear(), note_->clear();
    log_->open(platform);
    look();
    say(Said::Nothing);
    showEarlier();
}

void GamePage::look() {
    if (looking_) looking_->cancel();
    traits_ = {}, problem_.clear();
    files_->setText(tr("Looking at what was delivered…"));
    looking_ = session_.jobs().start<platform::GameAnswer>(
        tr("Looking at the delivered files of %1").arg(piece_), this,
        [folder = std::filesystem::path(folder_.toStdString())](const Progress& progress) {
            platform::GameAnswer answer;
            learn::noteTraits(answer, folder, progress);
            return answer;
        },
        [this, folder = folder_](platform::GameAnswer answer) {
            if (folder != folder_) return;
            looking_ = nullptr;
            traits_ = std::move(answer);
            files_->setText(tr("As it was delivered into %1").arg(folder_));
            showReasons();
        },
        [this, folder = folder_](const QString& problem) {
            if (folder != folder_) return;
            looking_ = nullptr;
            problem_ =
                QDir(folder).exists()
                    ? problem
                    : tr("Nothing is delivered there yet. Build the piece first: a refusal is then held "
                         "against what the game took.");
            files_->setText(problem_);
            showReasons();
        },
        Urgency::Asked);
}

void GamePage::say(Said said) {
    said_ = said;
    taken_.clear();
    accepted_->setChecked(said == Said::Accepted);
    refused_->setChecked(said == Said::Refused);
    because_->setVisible(said == Said::Refused);
    note_->setVisible(said != Said::Nothing);
    keep_->setEnabled(said != Said::Nothing);
    showReasons();
    if (said == Said::Refused) because_->setFocus();
}

std::vector<const platform::RuleResult*> GamePage::foreseen() const {
    std::vector<const platform::RuleResult*> out;
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (state.kind != CrossingState::Kind::Ready) return out;
    for (const auto& rule : state.report.rules)
        if (rule.state == platform::State::Broken && rule.severity == platform::Severity::Must)
            out.push_back(&rule);
    return out;
}

void GamePage::showReasons() {
    clearLayout(reasons_);
    const auto sheet = session_.sheet(platform_.toStdString());
    if (said_ != Said::Refused || !sheet) return;
    const auto broken = foreseen();
    if (!broken.empty()) {
        reasons_->addWidget(headingLabel(tr("The sheet says so already"), 2));
        for (const auto* rule : broken)
            reasons_->addLayout(markRow(Mark::Broken, qs(rule->label), qs(rule->finding.note)));
    }
    if (!problem_.isEmpty()) return; // said above
    reasons_->addWidget(headingLabel(broken.empty() ? tr("No limit foresaw it. Which of these was it?")
                                                    : tr("Or was it one of these?"),
                                     2));
    if (looking_) return reasons_->addWidget(textLabel(tr("Looking at what was delivered…"), "dim"));
    const auto apart = learn::differences(traits_, *sheet);
    if (apart.empty())
        reasons_->addWidget(textLabel(
            learn::knowsAccepted(*sheet)
                ? tr("Nothing that can be measured sets it apart from what the game took. Its log may say "
                     "more.")
                : tr("Nothing is known yet of what the game takes. Say so of pieces that it took, or learn "
                     "from files."),
            "dim"));
    else
        reasons_->addWidget(
            textLabel(tr("It is unlike all that the game took in these, the most telling first."), "dim"));
    for (const auto& one : apart) showDifference(one);
}

void GamePage::showDifference(const learn::Difference& one) {
    QVBoxLayout* column = nullptr;
    QFrame* box = card(column);
    box->setObjectName("apart-" + qs(one.id));
    column->addWidget(headingLabel(qs(one.label), 2));
    column->addWidget(textLabel(qs(one.said)));
    if (one.limit) {
        const auto most = one.limit->limits.find("most");
        auto* take =
            new QCheckBox(most == one.limit->limits.end()
                              ? tr("Make it a limit")
                              : tr("Make it a limit: at most %1").arg(qs(showNumber(most->second, 2))));
        take->setObjectName("take-" + qs(one.id));
        take->setToolTip(qs(one.confidence));
        take->setChecked(taken_ == qs(one.id));
        connect(take, &QCheckBox::toggled, this, [this, id = qs(one.id)](bool on) {
            taken_ = on ? id : QString();
            for (auto* other : findChildren<QCheckBox*>()) // it was one thing
                if (other->objectName().startsWith("take-") && other->objectName() != "take-" + id) {
                    const QSignalBlocker quiet(other);
                    other->setChecked(false);
                }
        });
        column->addWidget(take);
    }
    reasons_->addWidget(box);
}

void GamePage::showEarlier() {
    clearLayout(earlier_);
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!sheet) return;
    earlier_->addWidget(line());
    earlier_->addWidget(headingLabel(tr("Said before"), 2));
    if (sheet->answers.empty())
        earlier_->addWidget(
            textLabel(tr("Nothing yet. Each answer makes the sheet better: what the game took "
                         "says where limits cannot be, what it refused where they are."),
                      "dim"));
    for (std::size_t i = sheet->answers.size(); i-- > 0;) { // the newest first
        auto* row = new QHBoxLayout;
        row->addLayout(answerRow(sheet->answers[i], *sheet), 1);
        auto* back = button(tr("Take back"), "quiet");
        back->setObjectName("takeBack-" + QString::number(i));
        back->setToolTip(tr("Takes the answer out of the sheet; a limit that it led to stays"));
        connect(back, &QPushButton::clicked, this, [this, i] { takeBack(i); });
        row->addWidget(back, 0, Qt::AlignTop);
        earlier_->addLayout(row);
    }
}

void GamePage::keep() {
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!sheet || said_ == Said::Nothing) return;
    platform::GameAnswer answer = traits_;
    answer.piece = piece_.toStdString();
    answer.when = QDate::currentDate().toString(Qt::ISODate).toStdString();
    answer.accepted = said_ == Said::Accepted;
    if (!answer.accepted) answer.because = because_->text().trimmed().toStdString();
    answer.note = note_->text().trimmed().toStdString();
    const auto apart = learn::differences(traits_, *sheet);
    const bool kept = changeSheet(session_, *sheet, [&](platform::SheetText& text) {
        for (const auto& one : apart)
            if (!answer.accepted && one.limit && qs(one.id) == taken_)
                answer.limit = learn::putLimit(text, *sheet, *one.limit);
        text.add("answer", platform::answerSection(answer));
    });
    if (!kept) return;
    because_->clear(), note_->clear();
    say(Said::Nothing);
    showEarlier();
}

void GamePage::takeBack(std::size_t answer) {
    if (const auto sheet = session_.sheet(platform_.toStdString()))
        changeSheet(session_, *sheet, [&](platform::SheetText& text) { text.remove("answer", answer); });
    showEarlier();
}

void GamePage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape)
        Q_EMIT left();
    else
        QWidget::keyPressEvent(event);
}

} // namespace zl::app
