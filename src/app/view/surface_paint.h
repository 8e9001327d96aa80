#pragma once
#include "app/view/gl_painter.h"

#include "core/contact/touch.h"

#include <QString>

class QPainter;

namespace zl::app {

/// A kind's colour and hatch.
void paintKind(QPainter& painter, const QRectF& swatch, const QColor& colour, contact::Hatch hatch);
QColor colourOf(const contact::SurfaceKind& kind);

/// What faces are made of, painted over the piece: each kind in its colour and hatch, those of nothing in
/// clay; and a legend with how many there are of each.
class SurfacePaint {
public:
    /// Nothing for a platform that knows no kinds.
    void set(const Model& model, const contact::Touch& touch);
    void clear() { kinds_.clear(); }
    bool empty() const { return kinds_.empty(); }

    void draw(GlPainter& painter, const glm::mat4& toClip, float pixels) const;

    struct Kind {
        QString word;
        QColor colour;
        contact::Hatch hatch = contact::Hatch::Plain;
        std::size_t faces = 0;
        bool isKnown = true;            ///< to the platform, and set at all
        std::vector<glm::vec3> corners; ///< in the world, three a face
    };
    const std::vector<Kind>& kinds() const { return kinds_; }
    /// Rows from the bottom left up, `above` pixels over it; the plate that they stand on.
    QRectF paintLegend(QPainter& painter, const QSizeF& view, double above) const;

private:
    std::vector<Kind> kinds_;
};

} // namespace zl::app
