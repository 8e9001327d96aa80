#pragma once
#include "app/view/tools/view_tool.h"

#include "core/blocks/moved_blocks.h"

#include <QString>

#include <functional>

namespace zl::app {

/// What the hand does to blocks: puts one where a side is clicked, takes one away, makes another of it, or
/// chooses those in a box, from the block that is pressed to the one where it is let go. With Shift a box
/// adds to what is chosen.
class BlocksTool final : public ViewTool {
public:
    enum class Does { Put, Take, Turn, Choose };

    Does does = Does::Put;
    std::vector<glm::ivec3> chosen; ///< cells by their numbers

    /// A block was clicked: its cell, which side, and where the eye is from there.
    std::function<void(glm::ivec3 cell, int side, const glm::dvec3& toEye)> clicked;
    std::function<void(glm::ivec3 one, glm::ivec3 other, bool adds)> boxed;
    /// A key while the tool is in hand; true when it was one of its own.
    std::function<bool(const QKeyEvent& event)> keyed;

    /// The cell under the pointer, for what is put there: that which is free beside it.
    std::optional<glm::ivec3> under() const { return under_; }

    bool press(ModelView& view, const Hand& hand) override;
    void move(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    bool key(ModelView& view, const QKeyEvent& event, bool pressed) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;
    void putDown(ModelView& view) override;

private:
    struct Hit {
        glm::ivec3 cell{0};
        int side = 0;
    };
    std::optional<Hit> hit(const ModelView& view, QPointF at) const;
    void outline(const ModelView& view, QPainter& painter, const glm::dmat4& place, glm::ivec3 low,
                 glm::ivec3 high) const;

    std::optional<glm::ivec3> under_, from_, to_;
};

} // namespace zl::app
