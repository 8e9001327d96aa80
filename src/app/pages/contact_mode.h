#pragma once
#include "app/session.h"
#include "app/view/body_difference.h"
#include "app/view/model_view.h"
#include "app/view/tools/probe_tool.h"

#include <QObject>

class QSlider;
class QToolButton;

namespace zl::app {

class ChoiceBox;
class FlowRow;

/// What the workbench's view shows of how a game touches the piece: its bodies, what they and the piece
/// differ by, what faces are made of; and a tool that sends things at the bodies.
class ContactMode : public QObject {
    Q_OBJECT
public:
    using MakeSwitch = std::function<QToolButton*(const QString& name, const QString& text,
                                                  const QString& tip, bool on, std::function<void(bool)>)>;
    /// Puts its switches into `row`, each made by `make`.
    ContactMode(Session& session, ModelView& view, FlowRow& row, const MakeSwitch& make, QObject* parent);

    ProbeTool& probing() { return probing_; }
    /// The bodies to show; `figureMetres` sets what is fast and heavy beside them.
    void showBodies(const std::vector<Collider>& bodies, double figureMetres);
    /// The crossing was worked out anew, or another stage shown. `here`: bodies are worked on now.
    void refresh(const QString& piece, const QString& platform, bool here);
    bool isSettled() const { return !comparing_; }
    /// Makes faces of a surface kind, by the step that did so last where it is of that kind.
    void paint(const selection::Selection& faces, const std::string& kind);

private:
    void showSurfaces();
    void showDifference();
    void lookAgain();

    Session& session_;
    ModelView& view_;
    ProbeTool probing_;
    QString piece_, platform_;
    bool here_ = false, several_ = false, has_ = false;
    QToolButton *surfaces_, *differs_, *probe_;
    ChoiceBox* sends_;
    QWidget* apart_; ///< the slider that draws bodies away from one another
    QSlider* slider_;
    bool comparing_ = false;
    Model compared_; ///< what was last asked for; held, as its meshes are told apart by address
    std::shared_ptr<const BodyDifference> difference_;
};

} // namespace zl::app
