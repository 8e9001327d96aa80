#include "app/pages/clipping_mode.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/geometry/clipping.h"

#include <QElapsedTimer>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

constexpr std::size_t mostRows = 40;

/// What people know a part by: of what was put on or set beside, the piece that it came from.
QString knownAs(const std::string& name) {
    return qs(name.substr(0, name.find('/')));
}

struct Looked {
    std::vector<ClippingCard::Pair> pairs;
    std::vector<glm::vec3> corners;
    double millis = 0;
    bool cutShort = false;
};

Looked lookInto(const Scene& scene, const Progress& progress) {
    QElapsedTimer watch;
    watch.start();
    Looked out;
    const auto bodies = geometry::bodiesOf(scene.model, scene.mesh, scene.nodeOfTriangle);
    for (const auto& overlap : geometry::overlapsAmong(bodies, 0, progress, &out.cutShort)) {
        glm::vec3 low(1e30f), high(-1e30f);
        const auto light = [&](const geometry::Body& body, const std::vector<char>& faces) {
            for (std::size_t t = 0; t < faces.size(); ++t)
                for (int k = 0; faces[t] && k < 3; ++k) {
                    const glm::vec3 corner =
                        body.mesh().positions[body.mesh().indices[3 * t + std::size_t(k)]];
                    out.corners.push_back(corner);
                    low = glm::min(low, corner), high = glm::max(high, corner);
                }
        };
        light(bodies[overlap.a], overlap.facesOfA), light(bodies[overlap.b], overlap.facesOfB);
        const std::string &a = bodies[overlap.a].name(), &b = bodies[overlap.b].name();
        const bool same = knownAs(a) == knownAs(b);
        out.pairs.push_back({same ? qs(a) : knownAs(a), same ? qs(b) : knownAs(b), overlap.deepest,
                             overlap.place, std::max(8 * overlap.deepest, 0.6 * glm::length(high - low))});
    }
    out.millis = double(watch.nsecsElapsed()) / 1e6;
    return out;
}

} // namespace

void ClippingCard::show(const std::vector<Pair>& pairs, bool cutShort, const platform::Sheet& sheet) {
    empty();
    setObjectName("clipping");
    addHead(tr("Reaching into one another"));
    if (cutShort)
        layout_->addWidget(
            textLabel(tr("So many parts lie in one heap that not all pairs were looked at."), "warn"));
    if (pairs.empty()) {
        auto* none = textLabel(tr("No part reaches into another, as it stands here."), "good");
        none->setObjectName("clippingNone");
        layout_->addWidget(none);
        return setVisible(true);
    }
    layout_->addWidget(textLabel(tr("%1, deepest first. What is inside is lit through what hides it.")
                                     .arg(qs(showCount(long(pairs.size()), "pair", "pairs"))),
                                 "dim"));
    for (std::size_t i = 0; i < std::min(pairs.size(), mostRows); ++i) {
        const Pair& pair = pairs[i];
        const QString depth = qs(sheet.showLength(pair.deepest));
        auto* row = button(
            tr("%1   %2").arg(depth, fontMetrics().elidedText(tr("%1 in %2").arg(pair.inner, pair.outer),
                                                              Qt::ElideMiddle, 190)),
            "quiet");
        row->setObjectName(QString("clipping-%1").arg(i));
        row->setStyleSheet("text-align: left;");
        row->setToolTip(tr("%1 reaches %2 into %3: go there").arg(pair.inner, depth, pair.outer));
        connect(row, &QPushButton::clicked, this,
                [this, pair] { Q_EMIT placeAsked(pair.place, pair.around); });
        layout_->addWidget(row);
    }
    if (pairs.size() > mostRows)
        layout_->addWidget(textLabel(tr("and %1 more").arg(pairs.size() - mostRows), "dim"));
    setVisible(true);
}

ClippingMode::ClippingMode(Session& session, ModelView& view, ClippingCard& card, QObject* parent)
    : QObject(parent), session_(session), view_(view), card_(card) {
    connect(&view_, &ModelView::sceneChanged, this, &ClippingMode::look);
    connect(&card_, &ClippingCard::placeAsked, &view_, &ModelView::frame);
}

void ClippingMode::setOn(bool on) {
    on_ = on;
    looked_ = nullptr;
    if (on) return look();
    view_.setSeenThrough({});
    card_.hide();
}

void ClippingMode::look() {
    const auto scene = view_.scene();
    if (!on_ || working_ || scene == looked_) return;
    looked_ = scene;
    if (!scene) return view_.setSeenThrough({});
    working_ = true;
    const auto done = [this] {
        working_ = false;
        look();
    };
    session_.jobs().start<Looked>(
        tr("Looking for what reaches into what"), this,
        [scene](const Progress& progress) { return lookInto(*scene, progress); },
        [this, scene, done](Looked looked) {
            const auto sheet = session_.sheet(platform_.toStdString());
            millis_ = looked.millis;
            if (on_ && sheet) {
                view_.setSeenThrough(std::move(looked.corners));
                card_.show(looked.pairs, looked.cutShort, *sheet);
            }
            done();
        },
        [this, done](const QString& problem) {
            Q_EMIT session_.said(problem);
            done();
        },
        Urgency::Shown, [this] { working_ = false; });
}

} // namespace zl::app
