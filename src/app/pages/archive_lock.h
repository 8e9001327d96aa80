#pragma once
#include "app/session.h"

#include "core/files/contents.h"

#include <QFrame>

class QLabel;
class QLineEdit;

namespace zl::app {

/// Asks for the key of an archive whose files are locked, once, and tells a key that has gone stale.
class ArchiveLock : public QFrame {
    Q_OBJECT
public:
    explicit ArchiveLock(Session& session, QWidget* parent = nullptr);

    /// Hides itself where nothing is locked, or where the key is known.
    void show(const QString& archive, std::shared_ptr<const files::Contents> contents);

Q_SIGNALS:
    void unlocked();

private:
    void useLetters();
    void useFile();
    void use(const std::shared_ptr<const files::Key>& key);

    Session& session_;
    QString archive_;
    std::shared_ptr<const files::Contents> contents_;
    QLabel* words_;
    QLineEdit* key_;
};

} // namespace zl::app
