#include "app/game/log_pattern_card.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/error.h"
#include "core/platform/name_pattern.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTextEdit>
#include <QVBoxLayout>

namespace zl::app {

LogPatternCard::LogPatternCard(QWidget* parent) : QFrame(parent) {
    setProperty("card", true);
    setObjectName("logPattern");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 10);
    column->setSpacing(6);
    column->addWidget(headingLabel(tr("What does this line mean?"), 2));
    line_ = new QTextEdit;
    line_->setObjectName("logLine");
    line_->setAccessibleName(tr("The line"));
    line_->setReadOnly(true);
    line_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    line_->setFixedHeight(58);
    column->addWidget(line_);
    auto* row = new QHBoxLayout;
    auto* turn = button(tr("The selected part changes"));
    turn->setObjectName("turnSelected");
    turn->setToolTip(tr("Select what is another word or number the next time; once more takes it back"));
    row->addWidget(turn);
    outcome_ = textLabel({}, "dim");
    outcome_->setObjectName("patternOutcome");
    row->addWidget(outcome_, 1);
    column->addLayout(row);
    says_ = new QLineEdit;
    says_->setObjectName("patternSays");
    says_->setPlaceholderText(tr("In your words; {1} is the first part that changes"));
    column->addWidget(says_);
    auto* about = new QHBoxLayout;
    about->setSpacing(10);
    about->addWidget(textLabel(tr("It is about"), "dim"));
    rule_ = new QComboBox;
    rule_->setObjectName("patternRule");
    rule_->setAccessibleName(tr("The limit that it is about"));
    about->addWidget(rule_, 1);
    refuses_ = new QCheckBox(tr("Something was refused"));
    refuses_->setObjectName("patternRefuses");
    about->addWidget(refuses_);
    column->addLayout(about);
    auto* foot = new QHBoxLayout;
    auto* leave = button(tr("Leave it"), "quiet");
    leave->setObjectName("leavePattern");
    keep_ = button(tr("Keep it in the sheet"), "strong", "check");
    keep_->setObjectName("keepPattern");
    foot->addStretch(1);
    foot->addWidget(leave);
    foot->addWidget(keep_);
    column->addLayout(foot);
    connect(turn, &QPushButton::clicked, this, &LogPatternCard::turnSelected);
    connect(says_, &QLineEdit::textChanged, this, &LogPatternCard::refresh);
    connect(leave, &QPushButton::clicked, this, &QWidget::hide);
    connect(keep_, &QPushButton::clicked, this, [this] { Q_EMIT kept(pattern()); });
}

void LogPatternCard::begin(const QString& line, std::vector<std::string> lines, const SheetPointer& sheet) {
    sheet_ = sheet;
    lines_ = std::move(lines);
    line_->setPlainText(line);
    changing_ = platform::changingIn(line.toStdString());
    says_->clear();
    rule_->clear();
    rule_->addItem(tr("no limit of the sheet"), QString());
    for (const auto& rule : sheet->rules) rule_->addItem(qs(rule.label), qs(rule.id));
    refuses_->setChecked(true);
    refresh();
    says_->setFocus();
}

void LogPatternCard::turnSelected() {
    const QTextCursor cursor = line_->textCursor();
    const QString line = line_->toPlainText();
    const auto bytes = [&](int at) { return std::size_t(line.left(at).toUtf8().size()); };
    const platform::Range chosen{bytes(cursor.selectionStart()), bytes(cursor.selectionEnd())};
    const std::size_t before = changing_.size();
    std::erase_if(changing_, [&](const platform::Range& range) {
        return chosen.from == chosen.to ? range.from <= chosen.from && chosen.from <= range.to
                                        : range.from < chosen.to && chosen.from < range.to;
    });
    if (changing_.size() == before && chosen.from < chosen.to) changing_.push_back(chosen);
    std::ranges::sort(changing_, {}, &platform::Range::from);
    refresh();
}

platform::LogPattern LogPatternCard::pattern() const {
    platform::LogPattern out;
    out.pattern = platform::patternFor(line_->toPlainText().toStdString(), changing_);
    out.says = says_->text().trimmed().toStdString();
    out.rule = rule_->currentData().toString().toStdString();
    if (const auto* rule = sheet_->rule(out.rule)) out.mends = rule->mends;
    out.refuses = refuses_->isChecked();
    return out;
}

void LogPatternCard::refresh() {
    if (!sheet_) return;
    const std::string line = line_->toPlainText().toStdString();
    QList<QTextEdit::ExtraSelection> marks;
    for (const auto& range : changing_) {
        QTextEdit::ExtraSelection mark;
        mark.cursor = QTextCursor(line_->document());
        mark.cursor.setPosition(int(qs(line.substr(0, range.from)).size()));
        mark.cursor.setPosition(int(qs(line.substr(0, range.to)).size()), QTextCursor::KeepAnchor);
        mark.format.setBackground(tokens().claySoft);
        mark.format.setFontUnderline(true); // not by colour alone
        marks << mark;
    }
    line_->setExtraSelections(marks);
    keep_->setEnabled(false);
    try {
        const platform::NamePattern made(pattern().pattern);
        const auto meant =
            std::ranges::count_if(lines_, [&](const auto& one) { return bool(made.found(one)); });
        outcome_->setText(tr("%1 of %2 lines are like it").arg(meant).arg(lines_.size()));
        keep_->setEnabled(!says_->text().trimmed().isEmpty());
        keep_->setToolTip(keep_->isEnabled() ? QString() : tr("Say in words what the line means"));
    } catch (const Error& problem) {
        outcome_->setText(qs(problem.whole()));
    }
}

} // namespace zl::app
