#pragma once
#include "app/solids/onto_others.h"
#include "app/view/tools/view_tool.h"

#include "core/solids/scene_model.h"

#include <set>

namespace zl::app {

/// The hand on a scene of solids: a click chooses one (with Shift more), a drag moves what is chosen level,
/// or up and down with Alt. What is chosen is outlined, and lights are drawn.
class SolidsTool final : public ViewTool {
public:
    std::set<solids::Number> chosen; ///< solids and lights
    double snap = 0;                 ///< metres that moves are whole steps of; 0 for none
    bool onOthers = false;           ///< moves end where ends or middles meet those of other solids

    /// What is chosen was changed by the hand.
    std::function<void()> choseAnother;
    /// What is chosen is to be moved, in metres of the scene.
    std::function<void(const glm::dvec3& by)> moved;
    std::function<bool(const QKeyEvent& event)> keyed;
    /// The scene as it is edited, and where it stands in the world.
    std::function<const solids::Scene*()> scene;
    std::function<glm::dmat4()> place;

    bool press(ModelView& view, const Hand& hand) override;
    void move(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    bool key(ModelView& view, const QKeyEvent& event, bool pressed) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;

    glm::dvec3 snapped(glm::dvec3 by) const;

private:
    solids::Number under(const ModelView& view, QPointF at) const;
    glm::dvec3 dragged(const ModelView& view, QPointF to, bool up);
    void measureOthers();
    void drawMeeting(ModelView& view, QPainter& painter) const;

    std::optional<glm::dvec3> from_; ///< the place in the world that is dragged
    glm::dvec3 by_{0};
    geometry::Bounds moves_;               ///< what is dragged, in the scene
    std::vector<geometry::Bounds> others_; ///< and each that stays
    OntoOthers onto_;
    bool drags_ = false;
    solids::Number pressed_ = 0; ///< one that was chosen already
};

} // namespace zl::app
