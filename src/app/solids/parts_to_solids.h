#pragma once
#include "app/session.h"

#include "core/solids/recognised.h"

class QToolButton;

namespace zl::app {

class FlowRow;

/// The button that makes a scene of solids of a piece's loose parts, where the platform takes scenes.
class PartsToSolids : public QObject {
    Q_OBJECT
public:
    /// Puts the button into `row`.
    PartsToSolids(Session& session, FlowRow& row, QWidget* parent);
    /// `here`: pieces are shaped now.
    void refresh(const QString& piece, const QString& platform, bool here);

Q_SIGNALS:
    /// A piece of this name is the scene.
    void made(const QString& piece);

private:
    void look();
    void take(const QString& piece, const std::vector<solids::Recognised>& parts);

    Session& session_;
    QWidget* over_;
    QString piece_, platform_;
    QToolButton* button_;
};

} // namespace zl::app
