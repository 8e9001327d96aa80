#include "app/view/body_difference.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view/legend.h"

#include "core/base/units.h"
#include "core/contact/body_mesh.h"
#include "core/geometry/world.h"

#include <QObject>
#include <QPainter>

namespace zl::app {

std::shared_ptr<const BodyDifference> bodyDifference(const Model& model, const Progress& progress) {
    std::vector<Mesh> bodies;
    for (const Collider& collider : model.colliders)
        bodies.push_back(geometry::transformed(*collider.mesh, collider.placement));
    if (bodies.empty()) return nullptr;
    const Mesh mesh = contact::bodyMesh(model);
    auto out = std::make_shared<BodyDifference>();
    out->fit = contact::fitOf(mesh, bodies, progress.between(0, 0.7), {.distances = false});
    if (out->fit.volume <= 0) return nullptr;
    out->where = contact::differencesOf(mesh, bodies, 56, progress.between(0.7, 1));
    return out;
}

void drawDifference(GlPainter& painter, const glm::mat4& toClip, const BodyDifference& of) {
    painter.lines(of.where.filled, toClip, glColour(tokens().clay, 0.55f), 1.5f);
    painter.lines(of.where.missing, toClip, glColour(tokens().sea, 0.8f), 1.5f);
}

QRectF paintDifferenceLegend(QPainter& painter, const QSizeF& view, double above, const BodyDifference& of) {
    const Tokens& t = tokens();
    const auto row = [&](const QColor& colour, const QString& words, double share) {
        return LegendRow{[colour](QPainter& on, const QRectF& swatch) {
                             on.setPen(QPen(colour, 1.5));
                             for (int k = 0; k < 4; ++k)
                                 on.drawLine(swatch.topLeft() + QPointF(0, 1 + 3.6 * k),
                                             swatch.topLeft() + QPointF(20, 1 + 3.6 * k));
                         },
                         words,
                         share > 0 && share < 0.0005
                             ? QObject::tr("under 0.1 %")
                             : QObject::tr("%1 % of its volume").arg(qs(showNumber(100 * share, 1))),
                         t.ink};
    };
    return paintLegend(painter, view, above,
                       {row(t.clay, QObject::tr("solid, and not seen"), of.fit.filledShare()),
                        row(t.sea, QObject::tr("seen, and passed through"), of.fit.missingShare())});
}

} // namespace zl::app
