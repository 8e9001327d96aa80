#include "app/pages/source_page.h"

#include "app/widgets/ui.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

SourcePage::SourcePage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
}

QWidget* SourcePage::makeFinding(const QString& about, const QString& placeholder, int width,
                                 QVBoxLayout*& column) {
    auto* box = sideColumn(width, column);
    words_ = new QLineEdit;
    words_->setObjectName(about + "Words");
    words_->setPlaceholderText(placeholder);
    words_->setClearButtonEnabled(true);
    column->addWidget(words_);
    count_ = textLabel({}, "dim");
    count_->setObjectName(about + "Count");
    column->addWidget(count_);
    return box;
}

QWidget* SourcePage::makeBack(const QString& name) {
    auto* back = button(tr("Back"), "quiet");
    back->setObjectName(name);
    back->setToolTip(tr("Back to where you were (Esc)"));
    connect(back, &QPushButton::clicked, this, &SourcePage::left);
    return back;
}

QVBoxLayout* SourcePage::layOut(QWidget* finding, QWidget* found) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(finding);
    layout->addWidget(found, 1);
    QVBoxLayout* facts = nullptr;
    layout->addWidget(sideColumn(328, facts));
    return facts;
}

void SourcePage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return Q_EMIT left();
    QWidget::keyPressEvent(event);
}

} // namespace zl::app
