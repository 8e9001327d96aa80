#include "app/view/surface_paint.h"

#include "app/view/legend.h"
#include "app/qt_text.h"
#include "app/theme.h"

#include "core/base/units.h"
#include "core/geometry/world.h"

#include <QObject>
#include <QPainter>

#include <algorithm>

namespace zl::app {

namespace {

constexpr std::size_t mostRows = 12;

/// The same lines as the shader's, on a swatch.
void paintHatch(QPainter& painter, const QRectF& at, contact::Hatch hatch) {
    using contact::Hatch;
    painter.save();
    painter.setClipRect(at);
    painter.setPen(QPen(QColor(255, 255, 255, 150), 1.4));
    for (double k = -at.height(); k < at.width() + at.height(); k += 5) {
        const double x = at.left() + k;
        if (hatch == Hatch::Rising || hatch == Hatch::Crossed)
            painter.drawLine(QPointF(x, at.bottom()), QPointF(x + at.height(), at.top()));
        if (hatch == Hatch::Falling || hatch == Hatch::Crossed)
            painter.drawLine(QPointF(x, at.top()), QPointF(x + at.height(), at.bottom()));
        if (hatch == Hatch::Upright || hatch == Hatch::Checked)
            painter.drawLine(QPointF(x, at.top()), QPointF(x, at.bottom()));
        if (hatch == Hatch::Level || hatch == Hatch::Checked)
            painter.drawLine(QPointF(at.left(), at.top() + k), QPointF(at.right(), at.top() + k));
        if (hatch == Hatch::Dotted)
            for (double y = at.top() + 2; y < at.bottom(); y += 5) painter.drawPoint(QPointF(x, y));
    }
    painter.restore();
}

} // namespace

void paintKind(QPainter& painter, const QRectF& swatch, const QColor& colour, contact::Hatch hatch) {
    painter.fillRect(swatch, colour);
    paintHatch(painter, swatch, hatch);
}

QColor colourOf(const contact::SurfaceKind& kind) {
    return QColor::fromRgbF(kind.colour.r, kind.colour.g, kind.colour.b);
}

void SurfacePaint::set(const Model& model, const contact::Touch& touch) {
    kinds_.clear();
    if (touch.surfaces.empty()) return;
    std::map<int, std::size_t> places; ///< in kinds_, by the model's index
    geometry::forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4& toWorld) {
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            const int index = mesh.surfaces.empty() ? -1 : mesh.surfaces[t];
            const auto [entry, fresh] = places.try_emplace(index, kinds_.size());
            if (fresh) {
                const std::string name = index < 0 ? std::string() : model.surfaceKinds[std::size_t(index)];
                const contact::SurfaceKind* known = touch.surface(name);
                Kind kind;
                kind.isKnown = known != nullptr;
                kind.word = known       ? qs(known->word)
                            : index < 0 ? QObject::tr("of nothing")
                                        : QObject::tr("%1, not known here").arg(qs(name));
                kind.colour = known ? colourOf(*known) : tokens().clay;
                kind.hatch = known ? known->hatch : contact::Hatch::Rising;
                kinds_.push_back(std::move(kind));
            }
            Kind& kind = kinds_[entry->second];
            ++kind.faces;
            for (std::size_t k = 0; k < 3; ++k)
                kind.corners.emplace_back(toWorld * glm::dvec4(mesh.positions[mesh.indices[3 * t + k]], 1));
        }
    });
    std::ranges::stable_sort(kinds_, [](const Kind& a, const Kind& b) {
        return a.isKnown != b.isKnown ? b.isKnown : a.faces > b.faces; // what is to be done comes first
    });
}

void SurfacePaint::draw(GlPainter& painter, const glm::mat4& toClip, float pixels) const {
    for (const Kind& kind : kinds_)
        painter.triangles(kind.corners, toClip, glColour(kind.colour, kind.isKnown ? 0.82f : 0.95f),
                          kind.hatch == contact::Hatch::Plain ? 0 : 9 * pixels, int(kind.hatch));
}

QRectF SurfacePaint::paintLegend(QPainter& painter, const QSizeF& view, double above) const {
    const Tokens& t = tokens();
    std::vector<LegendRow> rows;
    for (const Kind& kind : kinds_) {
        if (rows.size() == mostRows) {
            rows.push_back({{}, QObject::tr("and %1 more").arg(kinds_.size() - mostRows), {}, t.dim});
            break;
        }
        const auto paintSwatch = [&kind](QPainter& on, const QRectF& swatch) {
            paintKind(on, swatch, kind.colour, kind.hatch);
        };
        rows.push_back(
            {paintSwatch, kind.word, qs(showNumber(double(kind.faces), 0)), kind.isKnown ? t.ink : t.clay});
    }
    return app::paintLegend(painter, view, above, rows);
}

} // namespace zl::app
