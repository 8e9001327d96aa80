#pragma once
#include "app/session.h"

#include "core/install/install.h"

#include <QWidget>

class QVBoxLayout;

namespace zl::app {

/// Puts what was delivered into a game's own folder, after saying what that would change, and takes it out
/// again. Empty for platforms whose deliveries are not installed.
class InstallPanel : public QWidget {
    Q_OBJECT
public:
    InstallPanel(Session& session, QWidget* parent);
    /// What lies in `delivered` for that platform; `built` says whether it is what the piece is now.
    void show(const SheetPointer& sheet, const QString& piece, const QString& delivered, bool built);

Q_SIGNALS:
    /// The game's folder is to be opened in its stand-in.
    void tryAsked(const QString& folder);

private:
    /// What is known of the game's folder for this delivery.
    struct Looked {
        install::Plan plan;
        bool keeps = false; ///< something of the game, under another name
        QString problem;
        bool isIn = false;              ///< it was put in before
        QString originalName;           ///< what the game's own is called since then
        std::vector<std::string> found; ///< what the game says of it now
    };
    QString game() const;
    QString name() const;
    void rebuild();
    void look();
    void addPlan();
    /// What is new in files that others use too.
    void addDetails();
    /// What can be done about what stands in the way.
    void addMends();
    void addTakingOut();
    install::Wishes wishes() const;
    void chooseGame();
    void putIn();
    void takeOut();
    void run(const QString& title, std::function<install::Plan(const Progress&)> work, const QString& done);

    Session& session_;
    QVBoxLayout* layout_;
    SheetPointer sheet_;
    QString piece_, delivered_;
    bool built_ = false;
    QString keepAs_;
    QString mergeInto_;            ///< somebody's collision file that the body goes into
    bool makeWritable_ = false;    ///< what is read-only need not stay so
    std::optional<Looked> looked_; ///< nothing while it is being looked at
    int asked_ = 0;                ///< which look is awaited
    bool busy_ = false;
};

} // namespace zl::app
