#pragma once
#include "app/widgets/file_look.h"

#include <QDialog>

class QListWidget;

namespace zl::app {

/// Every file of a delivery before it is written, one click each.
class FilesDialog : public QDialog {
    Q_OBJECT
public:
    using Make = std::function<std::vector<OutFile>(const Progress&)>;
    /// `make` runs beside the window.
    FilesDialog(Jobs& jobs, const QString& title, Make make, QWidget* parent);

    /// The files are there, and the chosen one is shown.
    bool isSettled() const { return files_ && look_->isSettled(); }

private:
    void take(std::vector<OutFile> files);

    FileLook* look_;
    QListWidget* list_;
    FileLook::Files files_;
};

} // namespace zl::app
