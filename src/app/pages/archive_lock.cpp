#include "app/pages/archive_lock.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/files/key_memory.h"

#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

namespace fs = std::filesystem;

namespace {

/// Empty when the key opens the archive, which is remembered; else why not.
QString tried(const fs::path& file, const files::Contents& contents,
              const std::shared_ptr<const files::Key>& key, const Progress& progress) {
    files::Terms terms = files::termsOf(file);
    terms.key = key;
    try {
        files::tryKey(file, contents, terms, progress);
        files::rememberOpened();
        return {};
    } catch (const files::KeyNeeded&) {
        if (const auto day = files::lastRightInWords(terms))
            return ArchiveLock::tr(
                       "The key does not open this archive; it was last right on %1. Give the one "
                       "that belongs to it now.")
                .arg(qs(*day));
        return ArchiveLock::tr("The key does not open this archive.");
    }
}

} // namespace

ArchiveLock::ArchiveLock(Session& session, QWidget* parent) : QFrame(parent), session_(session) {
    setProperty("card", true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 10, 12, 12);
    layout->setSpacing(7);
    words_ = textLabel({});
    words_->setObjectName("lockWords");
    layout->addWidget(words_);
    key_ = new QLineEdit;
    key_->setObjectName("archiveKey");
    key_->setEchoMode(QLineEdit::Password);
    key_->setPlaceholderText(tr("Key of this archive"));
    layout->addWidget(key_);
    auto* row = new QHBoxLayout;
    auto* unlock = button(tr("Unlock"), "strong", "key-round");
    unlock->setObjectName("unlockArchive");
    auto* fromFile = button(tr("Key from a file…"), "quiet");
    fromFile->setObjectName("keyFromFile");
    row->addWidget(unlock);
    row->addWidget(fromFile);
    row->addStretch(1);
    layout->addLayout(row);
    connect(key_, &QLineEdit::returnPressed, this, &ArchiveLock::useLetters);
    connect(unlock, &QPushButton::clicked, this, &ArchiveLock::useLetters);
    connect(fromFile, &QPushButton::clicked, this, &ArchiveLock::useFile);
    hide();
}

void ArchiveLock::show(const QString& archive, std::shared_ptr<const files::Contents> contents) {
    archive_ = archive;
    contents_ = std::move(contents);
    key_->clear();
    const auto locked =
        std::ranges::count_if(contents_->held, [](const files::Held& held) { return held.locked; });
    words_->setText(tr("%1 locked. The key is held while the program runs and never kept.")
                        .arg(qs(showCount(long(locked), "file is", "files are"))));
    setVisible(locked > 0 && !files::termsOf(archive_.toStdString()).key);
}

void ArchiveLock::useLetters() {
    std::string letters = key_->text().toStdString();
    key_->clear();
    if (!letters.empty()) use(files::Key::taking(letters));
}

void ArchiveLock::useFile() {
    const QString file = QFileDialog::getOpenFileName(this, tr("The file that holds the key"));
    if (file.isEmpty()) return;
    try {
        use(files::keyFromFile(file.toStdString()));
    } catch (const Error& error) {
        words_->setText(breakable(qs(error.whole())));
    }
}

void ArchiveLock::use(const std::shared_ptr<const files::Key>& key) {
    words_->setText(tr("Trying the key…"));
    session_.jobs().start<QString>(
        tr("Trying the key"), this,
        [file = fs::path(archive_.toStdString()), contents = contents_, key](const Progress& progress) {
            return tried(file, *contents, key, progress);
        },
        [this, key, archive = archive_](const QString& problem) {
            if (archive != archive_) return;
            if (!problem.isEmpty()) return words_->setText(problem);
            files::giveKey(archive.toStdString(), key);
            session_.readFailedAgain();
            Q_EMIT unlocked();
        },
        [this](const QString& problem) { words_->setText(breakable(problem)); }, Urgency::Asked);
}

} // namespace zl::app
