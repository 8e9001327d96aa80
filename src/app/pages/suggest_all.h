#pragma once
#include "app/session.h"

#include <QObject>

namespace zl::app {

/// Fits every crossing of the project that does not fit: plans each in the background and adds the steps of
/// those that hold as one step of undo.
class SuggestAll : public QObject {
    Q_OBJECT
public:
    SuggestAll(Session& session, QObject* parent);

    /// Crossings that are checked and do not fit.
    static std::vector<std::pair<std::string, std::string>> unfit(const Session& session);
    bool isRunning() const { return running_; }
    void start();

    /// What became of one crossing.
    struct Line {
        QString piece, platform, platformName;
        enum class Outcome { Fitted, Asks, StaysBroken, Changed } outcome = Outcome::Fitted;
        QString words; ///< how many steps, what is asked, or why not
    };

Q_SIGNALS:
    void changed();
    void done(const std::vector<zl::app::SuggestAll::Line>& lines);

private:
    struct Found;
    void take(const std::vector<Found>& found);

    Session& session_;
    bool running_ = false;
};

} // namespace zl::app
