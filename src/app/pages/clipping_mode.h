#pragma once
#include "app/pages/cards.h"
#include "app/view/model_view.h"

namespace zl::app {

/// What reaches into what, deepest first; a click goes there.
class ClippingCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    struct Pair {
        QString inner, outer;
        double deepest = 0; ///< metres
        glm::dvec3 place{0};
        double around = 0; ///< metres to have in sight there
    };
    /// `cutShort`: not all pairs were looked at.
    void show(const std::vector<Pair>& pairs, bool cutShort, const platform::Sheet& sheet);

Q_SIGNALS:
    void placeAsked(const glm::dvec3& place, double around);
};

/// A way of looking at the view's piece, in the pose that it stands in: faces that lie inside something else
/// are lit through whatever hides them, and each pair is listed with its depth. Worked out beside the
/// window's thread, one at a time; while one is, only the last shape that was shown waits.
class ClippingMode : public QObject {
    Q_OBJECT
public:
    ClippingMode(Session& session, ModelView& view, ClippingCard& card, QObject* parent);

    void setOn(bool on);
    void open(const QString& platform) { platform_ = platform; }
    /// Milliseconds that the last look took.
    double lastMillis() const { return millis_; }

private:
    void look();

    Session& session_;
    ModelView& view_;
    ClippingCard& card_;
    QString platform_;
    bool on_ = false, working_ = false;
    std::shared_ptr<const Scene> looked_;
    double millis_ = 0;
};

} // namespace zl::app
