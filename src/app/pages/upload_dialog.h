#pragma once
#include "core/upload/upload.h"

#include <QDialog>
#include <QThread>

#include <atomic>
#include <memory>

class QLabel;
class QPlainTextEdit;
class QProgressBar;
class QPushButton;

namespace zl::app {

class RegionForm;

/// Puts a delivered scene up in a region: where to, who, the test region first; a log of what is made as it
/// is made. The password stays in its field until it is used, and nowhere after that but in the desktop's
/// keyring where that is asked for.
class UploadDialog : public QDialog {
    Q_OBJECT
public:
    /// Throws Error where the folder holds no scene.
    UploadDialog(const QString& folder, QWidget* parent);
    ~UploadDialog() override; ///< stops what goes on

private:
    void showReady();
    void start();
    void end(const QString& words, const char* tone);

    upload::Cargo cargo_;
    RegionForm* form_;
    QPlainTextEdit* log_;
    QProgressBar* bar_;
    QLabel* words_;
    QPushButton *go_, *dry_, *close_;
    std::unique_ptr<QThread> work_;
    std::shared_ptr<std::atomic<bool>> stop_;
};

} // namespace zl::app
