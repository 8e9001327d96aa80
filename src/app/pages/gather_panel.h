#pragma once
#include "app/session.h"

#include <QWidget>

class QVBoxLayout;

namespace zl::app {

/// Where a piece comes from: its files, whose work they are, and what was lost on reading them.
class GatherPanel : public QWidget {
    Q_OBJECT
public:
    GatherPanel(Session& session, QWidget* parent);
    void show(const QString& piece, const QString& platform);

private:
    void addName();
    bool hasSizes() const;
    void addSizes(const project::Piece& piece);
    void addYardsticks();
    void rebuild();
    QWidget* sourceCard(const project::Source& source, int index);
    void editSource(int index, const QString& what, const std::function<void(project::Source&)>& change,
                    const QString& mergeKey = {});
    Session& session_;
    QVBoxLayout* layout_;
    QString piece_, platform_;
};

} // namespace zl::app
