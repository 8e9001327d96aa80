#pragma once
#include "app/session.h"

#include "core/project/used_sheets.h"

#include <QDialog>

namespace zl::app {

/// A sheet that is another one than the project was saved with: what changed, and whether it is taken.
class ChangedSheetDialog : public QDialog {
    Q_OBJECT
public:
    ChangedSheetDialog(Session& session, const project::ChangedSheet& changed, QWidget* parent = nullptr);
};

} // namespace zl::app
