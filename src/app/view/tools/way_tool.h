#pragma once
#include "app/view/tools/view_tool.h"

#include <glm/glm.hpp>

#include <QString>

#include <vector>

namespace zl::app {

/// Draws the way on which a clip carries the piece onto the floor, and the way on which it was carried
/// before.
class WayTool final : public ViewTool {
public:
    struct Way {
        std::vector<glm::dvec3> places; ///< in the world
        QString words;                  ///< at its end
        bool empty() const { return places.empty(); }
    };
    Way now, before;

    void draw(ModelView& view, QPainter& painter, const Label& label) override;
};

} // namespace zl::app
