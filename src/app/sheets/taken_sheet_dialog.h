#pragma once
#include "app/sheets/sheet_standing.h"

#include "core/base/file_set.h"

#include <QDialog>

class QLabel;

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
    void showTouched(const SheetPointer& before);

    Session& session_;
    SheetStanding standing_; ///< by the sheet as it would be
    QLabel* touched_ = nullptr;
    std::vector<OutFile> files_;
    std::string id_;
};

} // namespace zl::app
