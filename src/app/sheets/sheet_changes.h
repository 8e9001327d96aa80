#pragma once
#include "app/sheets/sheet_standing.h"

#include <QWidget>

class QLabel;

namespace zl::app {

/// What changed from one edition of a sheet to another, and which of the project's pieces that touches.
class SheetChanges : public QWidget {
    Q_OBJECT
public:
    SheetChanges(Session& session, const SheetPointer& before, const SheetPointer& after,
                 QWidget* parent = nullptr);

private:
    void showTouched();

    SheetStanding before_, after_;
    QLabel* touched_;
};

} // namespace zl::app
