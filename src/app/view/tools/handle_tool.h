#pragma once
#include "app/view/tools/view_tool.h"

#include <glm/glm.hpp>

#include <QString>

#include <vector>

namespace zl::app {

/// A mark on the view that is dragged to change a number.
struct Handle {
    enum class Way {
        Along,   ///< `axis` through `at`
        Around,  ///< `axis` through `centre`
        Onto,    ///< corners and faces of the model
        Surface, ///< its faces, without being drawn to corners
        Across,  ///< the plane through `at` that faces the eye
        Level    ///< the level plane through `at`
    };
    QString id;
    glm::dvec3 at{0};                    ///< world
    glm::dvec3 axis{0, 1, 0}, centre{0}; ///< of unit length; a place in the world
    Way way = Way::Along;
    QString label;      ///< the number, beside the hand
    bool small = false; ///< one of many
    bool quiet = false; ///< its label is shown only while it is held
    QString field{};    ///< parameter that a click brings the cursor to
    bool atEnd = false; ///< what it does is done when it is let go, for it moves the model under the hand
};

/// How far a handle was dragged since it was pressed.
struct HandleMove {
    double way = 0;     ///< metres along, or radians around
    glm::dvec3 onto{0}; ///< the place under the pointer, for the ways that are not Along or Around
};

class HandleTool final : public ViewTool {
public:
    void setHandles(std::vector<Handle> handles) { handles_ = std::move(handles); }
    const std::vector<Handle>& handles() const { return handles_; }
    std::function<void(const QString& id, const HandleMove&)> dragged;
    std::function<void(const QString& id, const HandleMove&)> previewed; ///< of one that acts at the end
    std::function<void()> letGo;
    std::function<void(const Handle&)> clicked; ///< pressed and let go in one place

    bool press(ModelView& view, const Hand& hand) override;
    void move(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;

private:
    std::optional<HandleMove> moveOf(const ModelView& view, const Hand& hand) const;
    const Handle* under(const ModelView& view, QPointF at) const;

    std::vector<Handle> handles_;
    std::optional<Handle> held_; ///< as it was when it was pressed; handles come anew while they are dragged
    std::optional<HandleMove> last_; ///< of the held one
};

} // namespace zl::app
