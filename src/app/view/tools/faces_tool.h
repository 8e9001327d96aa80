#pragma once
#include "app/selected.h"
#include "app/view/scene.h"
#include "app/view/tools/view_tool.h"

#include <QPolygonF>

namespace zl::app {

/// Selects faces: a click takes what hangs together with the face under it, in the way that was chosen; a
/// drag takes what lies within the line that is drawn. Shift adds to what is selected, Alt takes away; with
/// Ctrl a click takes the loose part.
class FacesTool final : public ViewTool {
public:
    /// What a click takes around the face under it.
    enum class Takes { Region, Face, LoosePart, Object, Material, Island, Bone };

    explicit FacesTool(Selected& selected) : selected_(selected) {}

    Takes takes() const { return takes_; }
    void setTakes(Takes takes) { takes_ = takes; }
    double angle() const { return angle_; }
    /// Radians that a region may bend by; what was clicked last follows.
    void setAngle(ModelView& view, double angle);
    /// Whether a drag goes through everything or takes only what is seen.
    bool goesThrough = false;

    bool press(ModelView& view, const Hand& hand) override;
    void move(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;
    void putDown(ModelView& view) override;

private:
    /// A click that can be taken again with another angle.
    struct Click {
        std::shared_ptr<const Scene> scene;
        std::size_t node;
        std::size_t triangle; ///< within the node
        bool takesAway;
        Takes takes;
        selection::Chosen before;
    };
    selection::Chosen found(const Click& click) const;
    void take(const Click& click);
    selection::Chosen before(const Model& model, const Hand& hand) const;

    Selected& selected_;
    Takes takes_ = Takes::Region;
    double angle_ = selection::OfRegion{}.angle;
    std::optional<Click> last_;
    QPolygonF line_;
};

} // namespace zl::app
