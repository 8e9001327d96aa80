#pragma once
#include "app/sheets/sheet_draft.h"
#include "app/sheets/sheet_standing.h"

#include <QFrame>

class QLabel;

namespace zl::app {

/// One limit of a sheet, edited in place: its rule in plain words, its numbers with their units, whether it
/// is a must, why, and how the project's pieces stand by it.
class LimitCard : public QFrame {
    Q_OBJECT
public:
    /// The rule number `index` of the draft.
    LimitCard(SheetDraft& draft, std::size_t index, QWidget* parent = nullptr);

    const std::string& rule() const { return id_; }
    void showStanding(const SheetStanding& standing);

private:
    SheetDraft& draft_;
    std::size_t index_;
    std::string id_;
    QLabel* standing_;
};

} // namespace zl::app
