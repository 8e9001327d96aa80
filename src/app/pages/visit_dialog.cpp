#include "app/pages/visit_dialog.h"

#include "app/widgets/ui.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

VisitDialog::VisitDialog(const QStringList& places, QWidget* parent) : QDialog(parent) {
    setObjectName("visitDialog");
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Into a region"));
    setMinimumWidth(520);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(10);
    layout->addWidget(headingLabel(tr("Look at what stands in a region")));
    layout->addWidget(textLabel(
        tr("As the server gives it to whoever logs in: walk about, and click what you want to know of."),
        "dim"));
    form_ = new RegionForm(places);
    layout->addWidget(form_);
    form_->setFocus();
    layout->addStretch(1);
    auto* actions = new QHBoxLayout;
    auto* close = button(tr("Cancel"));
    close->setAutoDefault(false);
    auto* go = button(tr("Log in"), "main");
    go->setObjectName("visitGo");
    go->setEnabled(form_->isFilled());
    actions->addStretch(1);
    actions->addWidget(close);
    actions->addWidget(go);
    layout->addLayout(actions);
    connect(form_, &RegionForm::changed, this, [this, go] { go->setEnabled(form_->isFilled()); });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(go, &QPushButton::clicked, this, [this] {
        Q_EMIT asked(form_->server(), form_->user(), form_->takePassword(), form_->keeps(), form_->region());
        accept();
    });
}

} // namespace zl::app
