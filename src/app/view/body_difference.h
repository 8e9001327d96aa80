#pragma once
#include "app/view/gl_painter.h"

#include "core/contact/differences.h"
#include "core/contact/pieces_fit.h"

#include <QPointF>

class QPainter;

namespace zl::app {

/// What bodies and the piece differ by, alone: lines through all that is solid to the game and is not seen,
/// and through all that is seen and passed through.
struct BodyDifference {
    contact::Differences where;
    contact::PiecesFit fit; ///< without distances
};

/// Nothing for a piece without bodies or that encloses nothing.
std::shared_ptr<const BodyDifference> bodyDifference(const Model& model, const Progress& progress);

void drawDifference(GlPainter& painter, const glm::mat4& toClip, const BodyDifference& of);
/// Both kinds with their shares of the volume, from the bottom left up, `above` pixels over it; the plate
/// that they stand on.
QRectF paintDifferenceLegend(QPainter& painter, const QSizeF& view, double above, const BodyDifference& of);

} // namespace zl::app
