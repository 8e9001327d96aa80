#include "app/pages/files_dialog.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

FilesDialog::FilesDialog(Jobs& jobs, const QString& title, Make make, QWidget* parent) : QDialog(parent) {
    setObjectName("filesDialog");
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Files"));
    resize(960, 640);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(10);
    layout->addWidget(headingLabel(title));
    auto* words = textLabel(tr("Working out the files…"), "dim");
    words->setObjectName("filesWords");
    layout->addWidget(words);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(16);
    list_ = new QListWidget;
    list_->setObjectName("filesList");
    list_->setAccessibleName(tr("Files"));
    list_->setFixedWidth(320);
    list_->setTextElideMode(Qt::ElideMiddle);
    halves->addWidget(list_);
    look_ = new FileLook(jobs);
    halves->addWidget(look_, 1);
    layout->addLayout(halves, 1);
    auto* foot = new QHBoxLayout;
    auto* close = button(tr("Close"));
    close->setObjectName("filesClose");
    close->setAutoDefault(false);
    foot->addStretch(1);
    foot->addWidget(close);
    layout->addLayout(foot);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0) look_->show(files_, std::size_t(row));
    });
    jobs.start<std::vector<OutFile>>(
        tr("Working out the files"), this, std::move(make),
        [this, words](std::vector<OutFile> files) {
            take(std::move(files));
            double all = 0;
            for (const OutFile& file : *files_) all += double(file.bytes.size());
            words->setText(
                tr("%1 together, %2. Nothing is written yet.")
                    .arg(qs(showCount(double(files_->size()), "file", "files")), qs(showBytes(all))));
        },
        [words](const QString& problem) { words->setText(problem); }, Urgency::Asked, [this] { reject(); });
}

void FilesDialog::take(std::vector<OutFile> files) {
    files_ = std::make_shared<const std::vector<OutFile>>(std::move(files));
    for (const OutFile& file : *files_)
        list_->addItem(tr("%1  (%2)").arg(qs(file.name), qs(showBytes(double(file.bytes.size())))));
    if (!files_->empty()) list_->setCurrentRow(0);
}

} // namespace zl::app
