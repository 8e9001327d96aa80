#include "app/pages/upload_dialog.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/upload/keyring.h"

#include <QCheckBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPointer>
#include <QProgressBar>
#include <QPushButton>
#include <QSettings>

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
    auto* form = new QFormLayout;
    form->setSpacing(8);
    const auto field = [&](const char* name, const QString& label, const QString& text, const QString& hint) {
        auto* made = new QLineEdit(text);
        made->setObjectName(name);
        made->setAccessibleName(label);
        made->setPlaceholderText(hint);
        form->addRow(label, made);
        return made;
    };
    QSettings settings;
    server_ = field("uploadServer", tr("Server"), settings.value("upload/server").toString(), "https://");
    user_ =
        field("uploadUser", tr("Name"), settings.value("upload/user").toString(), tr("that you log in with"));
    password_ = field("uploadPassword", tr("Password"), QString(), tr("empty takes the keyring's"));
    password_->setEchoMode(QLineEdit::Password);
    keeps_ = new QCheckBox(tr("Keep it in the desktop's keyring"));
    keeps_->setObjectName("uploadKeeps");
    form->addRow(QString(), keeps_);
    region_ = new ChoiceBox;
    region_->setObjectName("uploadRegion");
    region_->setAccessibleName(tr("Region"));
    region_->addItems({tr("test region"), tr("main region, once it stands in the test region")});
    form->addRow(tr("Region"), region_);
    layout->addLayout(form);
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
    for (QLineEdit* one : {server_, user_, password_})
        connect(one, &QLineEdit::textChanged, this, [this] { showReady(); });
    connect(dry_, &QPushButton::clicked, this, [this] {
        log_->clear();
        for (const std::string& line : upload::dryRun(cargo_, upload::Region(region_->currentIndex())))
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
    go_->setEnabled(!work_ && !server_->text().isEmpty() && !user_->text().isEmpty());
    for (QWidget* one : std::initializer_list<QWidget*>{server_, user_, password_, keeps_, region_, dry_})
        one->setEnabled(!work_);
    close_->setText(work_ ? tr("Stop") : tr("Close"));
    bar_->setVisible(bool(work_));
}

void UploadDialog::start() {
    upload::Connection::To to;
    to.url = server_->text().trimmed().toStdString(), to.user = user_->text().trimmed().toStdString();
    QSettings settings;
    settings.setValue("upload/server", server_->text().trimmed());
    settings.setValue("upload/user", user_->text().trimmed());
    auto secret = std::make_shared<upload::Secret>(password_->text().toStdString());
    password_->clear();
    log_->clear();
    words_->clear();
    stop_ = std::make_shared<std::atomic<bool>>(false);
    const bool keeps = keeps_->isChecked();
    const auto region = upload::Region(region_->currentIndex());
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
            if (secret->empty()) {
                auto kept = upload::keptSecret(to.url, to.user);
                if (!kept)
                    throw Error("no password is given, and the keyring has none", to.user, "Type it in.");
                *secret = std::move(*kept);
            } else if (keeps)
                upload::keepSecret(to.url, to.user, *secret);
            const upload::Log log = [tell](const std::string& line) {
                tell([text = qs(line)](UploadDialog& dialog) { dialog.log_->appendPlainText(text); });
            };
            const Progress progress(
                [tell](double fraction, std::string_view) {
                    tell([fraction](UploadDialog& dialog) { dialog.bar_->setValue(int(1000 * fraction)); });
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
