#pragma once
#include <QDialog>

namespace zl::app {

/// Settings that are remembered: the theme.
class SettingsDialog : public QDialog {
    Q_OBJECT
public:
    explicit SettingsDialog(QWidget* parent);
};

} // namespace zl::app
