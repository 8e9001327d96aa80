#pragma once
#include "app/pages/plan_panel.h"
#include "app/session.h"

#include <QObject>

namespace zl::app {

/// What a piece becomes with the ticked lines of a plan.
struct PlanPreview {
    Model model;
    platform::FitReport before, after;
};

/// Looks for a fit of one crossing in the background, offers it in a panel, works out what the ticked lines
/// come to, and adds them to the crossing when they are taken.
class PlanOffer : public QObject {
    Q_OBJECT
public:
    /// `isShown` tells whether a crossing is the one in sight: a plan for another is only said.
    PlanOffer(Session& session, PlanPanel& panel,
              std::function<bool(const QString& piece, const QString& platform)> isShown, QObject* parent);

    void suggest(const QString& piece, const QString& platform);
    bool isOpen() const { return open_; }
    /// Whether it asked what step `step` says.
    bool asks(std::string_view step) const;
    /// What a person said so far; null for nothing.
    const recipe::Entry* answerOf(std::string_view step) const;
    /// Looks again with one more thing known, or known otherwise.
    void answer(const recipe::Entry& answer);
    /// Two points of the piece were clicked as it stands in the view, with the ticked lines; a question may
    /// go by them.
    void point(const glm::dvec3& from, const glm::dvec3& to);
    /// Ends an offer, which changes nothing; also when the crossing is no longer what it was made for.
    void leave();
    void leaveIfStale();

Q_SIGNALS:
    void offered();
    void previewed(const zl::app::PlanPreview& preview);
    void ended();

private:
    void look(const QString& piece, const QString& platform);
    void offer(const planner::Plan& plan, const QString& piece, const QString& platform, Hash key);
    void preview();
    void take();

    Session& session_;
    PlanPanel& panel_;
    std::function<bool(const QString&, const QString&)> isShown_;
    QString piece_, platform_;
    recipe::Recipe answers_;
    std::vector<planner::Question> asked_; ///< all that was asked since suggest()
    Hash key_ = 0;                         ///< of the evaluation that the plan goes on from
    bool open_ = false;
    glm::dmat4 stood_{1.0}, stands_{1.0}; ///< how the piece was moved before the plan, and is in the view
    int previews_ = 0;                    ///< counts them, for only the last one asked for is shown
};

} // namespace zl::app
