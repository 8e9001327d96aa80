#include "app/view/tools/probe_tool.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view/backdrop.h"
#include "app/view/model_view.h"

#include "core/geometry/world.h"

#include <QPainterPath>

namespace zl::app {

using standins::world::Shape;

namespace {

constexpr double longestSeconds = 4;

float ballRadius(double figure) {
    return float(0.07 * figure);
}

Shape ballShape(float radius) {
    Shape out;
    constexpr int around = 14, up = 8;
    for (int j = 0; j <= up; ++j)
        for (int i = 0; i < around; ++i) {
            const float a = 6.2831853f * float(i) / around, b = 3.1415927f * float(j) / up;
            out.positions.push_back(
                radius * glm::vec3(std::sin(b) * std::sin(a), std::cos(b), std::sin(b) * std::cos(a)));
        }
    return out;
}

} // namespace

ProbeTool::ProbeTool() {
    timer_.setInterval(16);
    connect(&timer_, &QTimer::timeout, this, &ProbeTool::step);
}
ProbeTool::~ProbeTool() = default;

void ProbeTool::setBodies(const std::vector<Collider>& bodies, double figureMetres) {
    bodies_.clear();
    figure_ = figureMetres;
    physics_ = std::make_unique<standins::world::Physics>(figureMetres);
    physics_->keepWithin(glm::vec2(float(60 * figureMetres)), false);
    for (const Collider& collider : bodies) {
        const Mesh mesh = geometry::transformed(*collider.mesh, collider.placement);
        Body body{{mesh.positions, {}, {}, mesh.indices}, collider.kind == "mesh"};
        physics_->addFixed(body.shape, glm::mat4(1.0f), body.hollow);
        bodies_.push_back(std::move(body));
    }
    physics_->addShape(ballShape(ballRadius(figureMetres)), {0, 0, 0});
    arrow_.reset(), walk_.reset(), told_.clear();
    timer_.stop();
}

QString ProbeTool::bodyWords(int body) const {
    return bodies_.size() > 1 ? tr("piece %1").arg(body + 1) : tr("its body");
}

ProbeTool::Met ProbeTool::meet(const glm::vec3& from, const glm::vec3& way) const {
    Met out;
    for (std::size_t b = 0; b < bodies_.size(); ++b)
        if (const auto met = standins::world::firstMet(bodies_[b].shape, from, way);
            met && met->distance < out.far)
            out = {met->distance, int(b)};
    return out;
}

bool ProbeTool::press(ModelView& view, const Hand&) {
    return view.scene() != nullptr && physics_ != nullptr;
}

void ProbeTool::release(ModelView& view, const Hand& hand) {
    if (hand.hasMoved() || !physics_) return;
    view_ = &view;
    const glm::vec3 eye(view.camera().eye()),
        way(view.camera().ray(hand.at.x(), hand.at.y(), view.width(), view.height()));
    arrow_.reset(), walk_.reset();
    gone_ = 0;
    if (sends_ == Sends::Ball) sendBall(eye, way);
    if (sends_ == Sends::Arrow) sendArrow(view, eye, way);
    if (sends_ == Sends::Walker) sendWalker(view, eye, way);
    clock_.start();
    timer_.start();
    view.repaintOver();
}

void ProbeTool::sendBall(const glm::vec3& from, const glm::vec3& way) {
    if (physics_->count() > 24) physics_->clear();
    // From beside the eye, so that it is seen to fly, and in a curve that comes down where the pointer is.
    const float figure = float(figure_), speed = 10 * figure;
    const glm::vec3 start = from + way * (0.6f * figure) - glm::vec3(0, 0.15f * figure, 0);
    const Met met = meet(from, way);
    const glm::vec3 wanted = from + way * (met.body >= 0 ? met.far : 5 * figure) - start;
    const float seconds = std::max(0.05f, glm::length(wanted) / speed);
    const int ball = physics_->add(0, start);
    physics_->launch(ball, wanted / seconds + glm::vec3(0, 0.5f * physics_->gravity() * seconds, 0));
    told_ = bodies_.empty() ? tr("It has no body: the ball flies through")
            : met.body >= 0 ? tr("The ball goes for %1").arg(bodyWords(met.body))
                            : tr("There is no body where the ball goes");
}

void ProbeTool::sendArrow(ModelView& view, const glm::vec3& from, const glm::vec3& way) {
    const Met met = meet(from, way);
    const auto seen = view.scene()->rays ? view.scene()->rays->hit(from, way) : std::nullopt;
    const float far = met.body >= 0 ? met.far : 40 * float(figure_);
    arrow_ = Flight{from + way * (0.4f * float(figure_)), from + way * far};
    const auto length = [&](float metres) { return qs(view.sheet()->showLength(double(metres))); };
    if (met.body < 0)
        told_ = seen ? tr("The arrow passes through what is seen") : tr("The arrow meets nothing");
    else if (!seen)
        told_ = tr("%1 stops the arrow where nothing is seen").arg(bodyWords(met.body));
    else if (std::abs(met.far - seen->distance) < 0.005f * float(figure_))
        told_ = tr("%1 stops the arrow at the surface").arg(bodyWords(met.body));
    else
        told_ = met.far < seen->distance ? tr("%1 stops the arrow %2 before what is seen")
                                               .arg(bodyWords(met.body), length(seen->distance - met.far))
                                         : tr("%1 stops the arrow %2 behind what is seen")
                                               .arg(bodyWords(met.body), length(met.far - seen->distance));
}

void ProbeTool::sendWalker(ModelView& view, const glm::vec3& from, const glm::vec3& way) {
    glm::vec3 level(way.x, 0, way.z);
    if (glm::length(level) < 1e-4f)
        level = glm::vec3(-glm::dvec3(view.camera().back()).x, 0, -view.camera().back().z);
    level = glm::normalize(level);
    // Towards where the pointer meets the floor or the piece, from two figures before it.
    const float figure = float(figure_);
    const auto seen = view.scene()->rays ? view.scene()->rays->hit(from, way) : std::nullopt;
    const float down = way.y < -1e-4f ? -from.y / way.y : 1e30f;
    const glm::vec3 to = from + way * std::min({seen ? seen->distance : 1e30f, down, 30 * figure});
    const glm::vec3 start = glm::vec3(to.x, 0, to.z) - level * (2.5f * figure), right(level.z, 0, -level.x);
    constexpr float step = 0.16f; // of the figure: what is lower is stepped over
    Met first;
    for (const float side : {-0.13f, -0.06f, 0.0f, 0.06f, 0.13f})
        for (const float high : {step, 0.3f, 0.45f, 0.6f, 0.75f, 0.9f, 0.98f})
            if (const Met met = meet(start + figure * (side * right + glm::vec3(0, high, 0)), level);
                met.far < first.far)
                first = met;
    const float most = 5 * figure, room = 0.12f * figure;
    const bool stopped = first.body >= 0 && first.far - room < most;
    walk_ = Flight{start, start + level * (stopped ? std::max(0.0f, first.far - room) : most)};
    told_ = stopped ? tr("%1 stops who walks there").arg(bodyWords(first.body))
                    : tr("Nothing stops who walks there");
}

void ProbeTool::step() {
    const double seconds = std::min(0.1, double(clock_.restart()) / 1000);
    gone_ += seconds;
    physics_->advance(seconds);
    const bool flies = arrow_ && gone_ < 0.6, walks = walk_ && gone_ < 2.2;
    if (gone_ > longestSeconds || (gone_ > 0.5 && !flies && !walks && physics_->atRest())) timer_.stop();
    if (view_) view_->repaintOver();
}

std::optional<Qt::CursorShape> ProbeTool::hover(ModelView&, QPointF) {
    return Qt::CrossCursor;
}

void ProbeTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    const Tokens& t = tokens();
    if (physics_)
        for (std::size_t b = 0; b < physics_->count(); ++b) {
            const glm::dvec3 at(physics_->pose(int(b)).matrix[3]);
            const QPointF on = view.onScreen(at),
                          rim = view.onScreen(at + view.camera().up() * double(ballRadius(figure_)));
            const double radius = std::hypot(rim.x() - on.x(), rim.y() - on.y());
            if (radius > 400) continue;
            QRadialGradient shade(on - QPointF(0.35, 0.4) * radius, 1.5 * radius);
            shade.setColorAt(0, t.zest.lighter(135));
            shade.setColorAt(1, t.zest.darker(170));
            painter.setPen(Qt::NoPen);
            painter.setBrush(shade);
            painter.drawEllipse(on, radius, radius);
        }
    if (arrow_) {
        const glm::vec3 tip = glm::mix(arrow_->from, arrow_->to, float(std::min(1.0, gone_ / 0.25)));
        const glm::vec3 tail = tip - glm::normalize(arrow_->to - arrow_->from) * (0.35f * float(figure_));
        painter.setPen(QPen(t.clay, 3));
        painter.drawLine(view.onScreen(tail), view.onScreen(tip));
        painter.setBrush(t.clay);
        painter.drawEllipse(view.onScreen(tip), 4, 4);
    }
    if (walk_) {
        const glm::vec3 foot = glm::mix(walk_->from, walk_->to, float(std::min(1.0, gone_ / 1.8)));
        QPainterPath path;
        const auto outline = figureOutline(glm::dvec3(foot), figure_, view.camera().yaw);
        for (std::size_t i = 0; i + 2 < outline.size(); i += 3)
            path.addPolygon(QPolygonF(
                {view.onScreen(outline[i]), view.onScreen(outline[i + 1]), view.onScreen(outline[i + 2])}));
        path.setFillRule(Qt::WindingFill);
        QColor colour = t.clay;
        colour.setAlphaF(0.6f);
        painter.fillPath(path, colour);
    }
    label(QPointF(view.width() / 2.0, view.height() - 70.0),
          told_.isEmpty() ? tr("Click where it is to be sent") : told_, t.ink, true, Qt::AlignHCenter);
}

void ProbeTool::putDown(ModelView& view) {
    if (physics_) physics_->clear();
    arrow_.reset(), walk_.reset(), told_.clear();
    timer_.stop();
    view.repaintOver();
}

} // namespace zl::app
