#pragma once
#include "core/project/build_all.h"

#include <QDialog>

namespace zl::app {

/// One summary of a project's crossings after all were built.
class BuildAllDialog : public QDialog {
    Q_OBJECT
public:
    BuildAllDialog(const std::vector<project::BuiltCrossing>& results, const QString& folder,
                   QWidget* parent);
};

} // namespace zl::app
