#pragma once
#include "app/session.h"
#include "app/sound/sound_player.h"
#include "app/view/tryout_view.h"
#include "app/widgets/flow_row.h"

#include <QFrame>

class QPushButton;
class QVBoxLayout;

namespace zl::app {

class ElidedLabel;
class SliderRows;

/// The delivered files in the platform's stand-in: what it says of them, and what it measures.
class TryoutPage : public QWidget {
    Q_OBJECT
public:
    TryoutPage(Session& session, QWidget* parent = nullptr);
    /// Loads what lies in the folder into a stand-in; nothing else is looked at.
    /// `sheet` says what is tried, where the stand-in holds files to that.
    void load(const QString& folder, const std::string& standIn, const SheetPointer& sheet = nullptr);
    /// The same stand-in, with files from elsewhere: delivered earlier, or changed by another program since.
    void loadOther(const QString& folder);
    /// Beside files that the game takes, where the stand-in holds files to their sheet.
    void compareWith(const QString& folder);
    bool isReady() const { return ready_; }
    TryoutView& view() { return *view_; }

Q_SIGNALS:
    /// A sound of the platform's was played, by its word.
    void played(const QString& sound);

private:
    struct Loaded {
        QString what, how; ///< that is shown, in a sentence; and how it was judged
        standins::TryReport report;
        std::shared_ptr<standins::world::Arena> arena;
    };
    void show(const Loaded& loaded, const QString& name);
    void act(const QString& id);
    void makeTools();
    void addSoundSwitch();
    void playHeard();
    void askForFolder();
    void askForVisit();
    void visit(const QString& server, const QString& user, const std::shared_ptr<upload::Secret>& password,
               bool keeps, const QString& place);
    /// The side says what is going on, until show().
    void announce(const QString& words);
    void askForPicture();
    void showWhatChanged();
    void showVerdict();
    void showSliders();
    void showTables();
    Session& session_;
    TryoutView* view_;
    SoundPlayer sounds_;
    QString noSound_; ///< why nothing is heard, once it was tried
    QVBoxLayout *side_, *verdict_ = nullptr, *tables_ = nullptr;
    FlowRow* tools_;
    QPushButton *visit_, *like_;
    QFrame* slidersCard_ = nullptr; ///< null where the stand-in has none
    SliderRows* sliders_ = nullptr;
    SheetPointer sheet_;
    QString likeFolder_; ///< of files that the game takes
    QString folder_;
    QString visited_; ///< where one has logged in instead of it; empty for nowhere
    std::string standIn_;
    QString name_, how_;         ///< of the stand-in, and how it judges
    standins::TryReport report_; ///< as it was on opening
    QString saidVerdict_;        ///< what the verdict that is shown was made of
    std::vector<standins::world::Table> shown_;
    std::vector<ElidedLabel*> values_; ///< of the tables that are shown, in their order
    bool ready_ = false;
};

} // namespace zl::app
