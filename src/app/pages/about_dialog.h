#pragma once
#include <QDialog>

namespace zl::app {

/// Which version this is, whose works it contains under which licences, and how to report a fault.
class AboutDialog : public QDialog {
    Q_OBJECT
public:
    explicit AboutDialog(QWidget* parent);

    /// What a report of a fault should begin with: version, system, libraries.
    static QString details();
};

} // namespace zl::app
