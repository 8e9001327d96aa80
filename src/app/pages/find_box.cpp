#include "app/pages/find_box.h"

#include "app/widgets/ui.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

namespace zl::app {

FindBox::FindBox(std::vector<Findable> all, QWidget* parent) : QDialog(parent), all_(std::move(all)) {
    setWindowTitle(tr("Find"));
    setObjectName("findBox");
    setMinimumSize(520, 400);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 16, 16, 16);
    edit_ = new QLineEdit;
    edit_->setObjectName("findEdit");
    edit_->setPlaceholderText(tr("Find a piece, platform, step or command…"));
    edit_->setAccessibleName(tr("Find"));
    edit_->installEventFilter(this);
    list_ = new QListWidget;
    list_->setObjectName("findList");
    list_->setAccessibleName(tr("What was found"));
    layout->addWidget(edit_);
    layout->addWidget(list_, 1);
    layout->addWidget(textLabel(tr("Up and Down choose, Enter goes there, Esc closes."), "dim"));
    connect(edit_, &QLineEdit::textChanged, this, &FindBox::filter);
    connect(edit_, &QLineEdit::returnPressed, this, &FindBox::take);
    connect(list_, &QListWidget::itemActivated, this, &FindBox::take);
    connect(list_, &QListWidget::itemClicked, this, &FindBox::take);
    filter({});
}

void FindBox::type(const QString& text) {
    edit_->setText(text);
}

void FindBox::filter(const QString& text) {
    list_->clear();
    const QStringList words = text.split(' ', Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < all_.size(); ++i) {
        const QString shown = QString("%1   —   %2").arg(all_[i].name, all_[i].kind);
        if (!std::ranges::all_of(
                words, [&](const QString& word) { return shown.contains(word, Qt::CaseInsensitive); }))
            continue;
        auto* item = new QListWidgetItem(shown, list_);
        item->setData(Qt::UserRole, int(i));
    }
    if (list_->count() > 0) {
        list_->setCurrentRow(0);
    } else {
        auto* none = new QListWidgetItem(tr("Nothing is called that."), list_);
        none->setFlags(Qt::NoItemFlags);
    }
}

void FindBox::take() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item || !item->data(Qt::UserRole).isValid()) return;
    const auto go = all_[item->data(Qt::UserRole).toInt()].go;
    accept();
    go();
}

bool FindBox::eventFilter(QObject* object, QEvent* event) {
    if (object == edit_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int step = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
        if (step != 0) {
            list_->setCurrentRow(std::clamp(list_->currentRow() + step, 0, std::max(0, list_->count() - 1)));
            return true;
        }
    }
    return QDialog::eventFilter(object, event);
}

} // namespace zl::app
