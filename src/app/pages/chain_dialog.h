#pragma once
#include "app/session.h"

#include "core/chain/chain.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QPushButton;

namespace zl::app {

class ChainTable;

/// Two chains for one piece side by side: the platform's own and another, each run and measured.
class ChainDialog : public QDialog {
    Q_OBJECT
public:
    ChainDialog(Session& session, const QString& piece, const QString& platform, const QString& folder,
                QWidget* parent);

private:
    struct Side {
        QLineEdit* formats = nullptr;
        ChainTable* table = nullptr;
        QLabel* summary = nullptr;
        QString folder;
    };
    QWidget* makeSide(Side& side, const QString& title, const QString& formats, const QString& folder);
    void showExpected(Side& side);
    void run(Side& side);
    std::vector<chain::LegPlan> plansOf(const Side& side) const;

    Session& session_;
    QString piece_, platform_;
    std::shared_ptr<const platform::Sheet> sheet_;
    Side own_, other_;
};

} // namespace zl::app
