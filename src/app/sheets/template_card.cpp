#include "app/sheets/template_card.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QComboBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QTextBlock>
#include <QTimer>
#include <QVBoxLayout>

namespace zl::app {

namespace {

constexpr qsizetype mostShown = 60000; ///< letters of an outcome

QPlainTextEdit* textBox(const char* name, const QString& heard, int height) {
    auto* box = codeBox(name, heard);
    box->setFixedHeight(height);
    return box;
}

} // namespace

TemplateCard::TemplateCard(const Said& said, QWidget* parent) : QFrame(parent), before_(said.text) {
    setObjectName(said.name);
    setProperty("card", true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 10);
    column->addWidget(headingLabel(said.path, 2));
    if (!said.about.isEmpty()) column->addWidget(textLabel(said.about, "dim"));
    const int height = said.isShort ? 96 : 230; // of both texts, in pixels
    auto* halves = new QHBoxLayout;
    halves->setSpacing(10);
    auto* left = new QVBoxLayout;
    left->addWidget(textLabel(tr("Template"), "dim"));
    edit_ = textBox("template", tr("Template of %1").arg(said.path), height);
    edit_->setPlainText(before_);
    left->addWidget(edit_);
    halves->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    auto* head = new QHBoxLayout;
    head->addWidget(textLabel(tr("What comes of it"), "dim"), 1);
    files_ = new QComboBox;
    files_->setObjectName("outcomeFile");
    files_->setAccessibleName(tr("Which of its files"));
    files_->hide();
    head->addWidget(files_);
    right->addLayout(head);
    outcome_ = textBox("outcome", tr("What comes of the template"), height);
    outcome_->setReadOnly(true);
    right->addWidget(outcome_);
    halves->addLayout(right, 1);
    column->addLayout(halves);
    problem_ = textLabel({}, "bad");
    problem_->setObjectName("templateProblem");
    problem_->hide();
    column->addWidget(problem_);
    keep_ = button(tr("Take the template over"), nullptr, "check");
    keep_->setObjectName("keepTemplate");
    keep_->hide();
    column->addWidget(keep_, 0, Qt::AlignLeft);
    auto* soon = new QTimer(this);
    soon->setSingleShot(true);
    soon->setInterval(250);
    connect(soon, &QTimer::timeout, this, &TemplateCard::typed);
    connect(edit_, &QPlainTextEdit::textChanged, this, [this, soon] {
        keep_->setVisible(isTyped());
        soon->start();
    });
    connect(keep_, &QPushButton::clicked, this, [this] { Q_EMIT kept(edit_->toPlainText()); });
    connect(files_, &QComboBox::activated, this, &TemplateCard::showFile);
}

QString TemplateCard::text() const {
    return edit_->toPlainText();
}

bool TemplateCard::isTyped() const {
    return text() != before_;
}

void TemplateCard::show(const deliver::SectionFiles* made) {
    made_ = made ? made->files : std::vector<OutFile>();
    const QString problem = made ? qs(made->problem) : QString();
    problem_->setText(problem);
    problem_->setVisible(!problem.isEmpty());
    keep_->setEnabled(problem.isEmpty());
    QList<QTextEdit::ExtraSelection> marks;
    static const QRegularExpression line("line (\\d+)");
    if (const auto match = line.match(problem); match.hasMatch()) {
        QTextEdit::ExtraSelection mark;
        mark.cursor = QTextCursor(edit_->document()->findBlockByNumber(match.captured(1).toInt() - 1));
        mark.format.setBackground(tokens().claySoft);
        mark.format.setProperty(QTextFormat::FullWidthSelection, true);
        marks << mark;
    }
    edit_->setExtraSelections(marks);
    const int chosen = std::max(files_->currentIndex(), 0);
    files_->clear();
    for (const OutFile& file : made_) files_->addItem(qs(file.name));
    files_->setVisible(made_.size() > 1);
    files_->setCurrentIndex(std::min(chosen, files_->count() - 1));
    showFile();
    if (made_.empty() && made)
        outcome_->setPlaceholderText(problem.isEmpty() ? tr("Nothing is written of it for this piece.")
                                                       : tr("Nothing, until the template is mended."));
}

void TemplateCard::showFile() {
    const int which = std::max(files_->currentIndex(), 0);
    outcome_->setPlainText(which < int(made_.size()) ? qs(made_[std::size_t(which)].bytes).left(mostShown)
                                                     : QString());
}

} // namespace zl::app
