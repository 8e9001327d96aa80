#pragma once
#include "app/pages/loom_table.h"
#include "app/pages/suggest_all.h"

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

/// First screen of a project: the table, and what the chosen crossing's platform says beside it.
class LoomPage : public QWidget {
    Q_OBJECT
public:
    LoomPage(Session& session, QWidget* parent = nullptr);
    void select(const QString& piece, const QString& platform);
    void focusTable() { table_->focusSelected(); }
    /// Fits what does not fit, and says beside the table what became of each.
    void suggestForAll() { suggestAll_->start(); }

Q_SIGNALS:
    void openAsked(const QString& piece, const QString& platform);
    void suggestAsked(const QString& piece, const QString& platform);
    void bringInAsked();
    void platformsAsked();

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void rebuild();
    void showSide();
    void addSources(const project::Piece& piece);
    void addActions(bool offer);
    void showSummary(const std::vector<SuggestAll::Line>& lines);
    void refreshFoot();
    Session& session_;
    LoomTable* table_;
    SuggestAll* suggestAll_;
    QLabel* unfit_;
    QPushButton* suggest_;
    QWidget* panel_;
    QVBoxLayout* side_;
    QTimer footTimer_;
    QString piece_, platform_;
    bool summarising_ = false; ///< what became of all stands beside the table
};

} // namespace zl::app
