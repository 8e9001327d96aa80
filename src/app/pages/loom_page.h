#pragma once
#include "app/pages/loom_table.h"

class QVBoxLayout;

namespace zl::app {

/// First screen of a project: the table, and what the chosen crossing's platform says beside it.
class LoomPage : public QWidget {
    Q_OBJECT
public:
    LoomPage(Session& session, QWidget* parent = nullptr);
    void select(const QString& piece, const QString& platform);
    void focusTable() { table_->focusSelected(); }

Q_SIGNALS:
    void openAsked(const QString& piece, const QString& platform);
    void suggestAsked(const QString& piece, const QString& platform);
    void bringInAsked();

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void rebuild();
    void showSide();
    void addSources(const project::Piece& piece);
    void addActions(bool offer);
    Session& session_;
    LoomTable* table_;
    QWidget* panel_;
    QVBoxLayout* side_;
    QString piece_, platform_;
};

} // namespace zl::app
