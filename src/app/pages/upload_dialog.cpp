#include "app/pages/upload_dialog.h"

#include "app/pages/region_form.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/upload/keyring.h"

#include <QLabel>
#include <QPlainTextEdit>
#include <QPointer>
#include <QProgressBar>
#include <QPushButton>

namespace zl::app {

UploadDialog::UploadDialog(const QString& folder, QWidget* parent)
    : QDialog(parent), cargo_(upload::cargoIn(folder.toStdString())) {
    setObjectName("uploadDialog");
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Upload"));
    setMinimumSize(620, 560);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(10);
    layout->addWidget(headingLabel(tr("%1 into a region").arg(qs(cargo_.name))));
    layout->addWidget(textLabel(tr("%1, %2 and %3, %4 kB in all. What is there already is not sent again.")
                                    .arg(qs(showCount(long(cargo_.pictures.size()), "picture", "pictures")),
                                         qs(showCount(long(cargo_.solids.size()), "solid", "solids")),
                                         qs(showCount(long(cargo_.groups.size()), "group", "groups")),
                                         qs(showNumber(double(cargo_.bytes()) / 1000, 0))),
                                "dim"));
    form_ = new RegionForm({tr("test region"), tr("main region, once it stands in the test region")});
    layout->addWidget(form_);
    form_->setFocus();
    log_ = new QPlainTextEdit;
    log_->setObjectName("uploadLog");
    log_->setAccessibleName(tr("What was made"));
    log_->setReadOnly(true);
    log_->setPlaceholderText(tr("What is made there is listed here as it is made."));
    layout->addWidget(log_, 1);
    bar_ = new QProgressBar;
    bar_->setRange(0, 1000);
    bar_->setTextVisible(false);
    bar_->hide();
    layout->addWidget(bar_);
    words_ = textLabel(QString());
    words_->setObjectName("uploadWords");
    layout->addWidget(words_);
    auto* actions = new QHBoxLayout;
    dry_ = button(tr("What would be sent"));
    dry_->setObjectName("uploadDry");
    go_ = button(tr("Upload"), "main", "upload");
    go_->setObjectName("uploadGo");
    close_ = button(tr("Close"));
    close_->setObjectName("uploadClose");
    for (QPushButton* one : {dry_, close_}) one->setAutoDefault(false);
    actions->addWidget(dry_);
    actions->addStretch(1);
    actions->addWidget(go_);
    actions->addWidget(close_);
    layout->addLayout(actions);
    connect(form_, &RegionForm::changed, this, &UploadDialog::showReady);
    connect(dry_, &QPushButton::clicked, this, [this] {
        log_->clear();
        for (const std::string& line : upload::dryRun(cargo_, upload::Region(form_->region())))
            log_->appendPlainText(qs(line));
    });
    connect(go_, &QPushButton::clicked, this, &UploadDialog::start);
    connect(close_, &QPushButton::clicked, this, [this] {
        if (work_)
            stop_->store(true), words_->setText(tr("Stopping…"));
        else
            accept();
    });
    showReady();
}

UploadDialog::~UploadDialog() {
    if (!work_) return;
    stop_->store(true);
    work_->wait();
}

void UploadDialog::showReady() {
    go_->setEnabled(!work_ && form_->isFilled());
    for (QWidget* one : std::initializer_list<QWidget*>{form_, dry_}) one->setEnabled(!work_);
    close_->setText(work_ ? tr("Stop") : tr("Close"));
    bar_->setVisible(bool(work_));
}

void UploadDialog::start() {
    upload::Connection::To to;
    to.url = form_->server().toStdString(), to.user = form_->user().toStdString();
    auto secret = form_->takePassword();
    log_->clear();
    words_->clear();
    stop_ = std::make_shared<std::atomic<bool>>(false);
    const bool keeps = form_->keeps();
    const auto region = upload::Region(form_->region());
    const QPointer self(this);
    const auto tell = [self](std::function<void(UploadDialog&)> what) {
        QMetaObject::invokeMethod(
            qApp,
            [self, what = std::move(what)] {
                if (self) what(*self);
            },
            Qt::QueuedConnection);
    };
    work_.reset(QThread::create([to, secret, stop = stop_, keeps, region, cargo = cargo_, tell] {
        QString words;
        const char* tone = "bad";
        try {
            *secret = upload::typedOrKept(std::move(*secret), keeps, to.url, to.user);
            const upload::Log log = [tell](const std::string& line) {
                tell([text = qs(line)](UploadDialog& dialog) { dialog.log_->appendPlainText(text); });
            };
            const Progress progress(
                [tell](double fraction, std::string_view) {
                    tell([fraction](UploadDialog& dialog) {
                        dialog.bar_->setValue(int(1000 * fraction));
                        if (!dialog.stop_->load())
                            dialog.words_->setText(tr("%1 %").arg(int(100 * fraction)));
                    });
                },
                stop.get());
            upload::Connection connection(to, std::move(*secret), log);
            const upload::Uploaded done = upload::upload(cargo, region, connection, log, progress);
            words = tr("It stands in the %1 region, %2 m above you.")
                        .arg(qs(std::string(upload::regionName(region))), qs(showNumber(done.above)));
            tone = "good";
        } catch (const Cancelled&) {
            words = tr("Stopped. What is there stays: begin again, and it goes on from there.");
            tone = "dim";
        } catch (const std::exception& problem) {
            words = qs(wordsOf(problem));
        }
        tell([words, tone](UploadDialog& dialog) { dialog.end(words, tone); });
    }));
    work_->start();
    showReady();
}

void UploadDialog::end(const QString& words, const char* tone) {
    work_->wait();
    work_.reset();
    words_->setText(breakable(words));
    for (const char* one : {"good", "bad", "dim"}) restyle(words_, one, std::string_view(one) == tone);
    showReady();
}

} // namespace zl::app
