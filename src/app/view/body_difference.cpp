#include "app/view/body_difference.h"

#include "app/qt_text.h"
#include "app/theme.h"

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
    const struct {
        QColor colour;
        QString words;
        double share;
    } rows[] = {{t.clay, QObject::tr("solid, and not seen"), of.fit.filledShare()},
                {t.sea, QObject::tr("seen, and passed through"), of.fit.missingShare()}};
    constexpr double line = 21, wide = 286;
    const double high = line * double(std::size(rows)) + 14;
    const QRectF plate(16, view.height() - above - high, wide, high);
    QColor back = t.paper;
    back.setAlphaF(0.92f);
    painter.setPen(Qt::NoPen);
    painter.setBrush(back);
    painter.drawRoundedRect(plate, 8, 8);
    painter.setFont(Theme::instance().text(12));
    double top = plate.top() + 7;
    for (const auto& [colour, words, share] : rows) {
        const QRectF row(plate.left() + 10, top, wide - 20, line);
        painter.setPen(QPen(colour, 1.5));
        for (int k = 0; k < 4; ++k)
            painter.drawLine(row.topLeft() + QPointF(0, 5 + 3.6 * k),
                             row.topLeft() + QPointF(20, 5 + 3.6 * k));
        painter.setPen(t.ink);
        painter.drawText(row.adjusted(28, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, words);
        painter.drawText(row, Qt::AlignVCenter | Qt::AlignRight,
                         share > 0 && share < 0.0005
                             ? QObject::tr("under 0.1 %")
                             : QObject::tr("%1 % of its volume").arg(qs(showNumber(100 * share, 1))));
        top += line;
    }
    return plate;
}

} // namespace zl::app
