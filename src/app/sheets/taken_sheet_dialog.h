#pragma once
#include "app/session.h"

#include "core/base/file_set.h"

#include <QDialog>

namespace zl::app {

/// A sheet that somebody gave away, before it is taken in: what it is, and, where the session has one of its
/// id, what changed since and which pieces would stand otherwise.
class TakenSheetDialog : public QDialog {
    Q_OBJECT
public:
    /// Throws Error for a package that holds no sheet that can be read.
    TakenSheetDialog(Session& session, const QString& package, QWidget* parent = nullptr);

Q_SIGNALS:
    void taken(const QString& sheet);
    void failed(const QString& problem);

private:
    void take();

    Session& session_;
    std::vector<OutFile> files_;
    std::string id_;
};

} // namespace zl::app
