#pragma once
#include "app/pages/cards.h"
#include "app/pages/workbench_hands.h"
#include "app/pages/workbench_scenes.h"

#include "core/geometry/twins.h"
#include "core/selection/carried_over.h"

class QSlider;
class QLabel;

namespace zl::app {

/// Object by object, whether two sizes are alike; a click lights the first difference in both.
class SizesCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    /// `homeless` are kept selections that do not hold on the second.
    void show(const geometry::TwinReport& report, const std::array<std::string, 2>& sizes,
              const std::vector<std::string>& homeless);
    /// A guess, which is lit in both and waits to be looked at.
    void showGuess(const std::string& name, const selection::CarriedOver& guess,
                   const std::array<std::string, 2>& sizes);

Q_SIGNALS:
    void differenceAsked(int object);
    void carryAsked(const std::string& selection);
    void guessTaken(bool keeps);
};

/// A bar below the view: how far between the two sizes the middle one stands.
class SizesBar : public QFrame {
    Q_OBJECT
public:
    explicit SizesBar(QWidget* parent = nullptr);
    void setSizes(const QString& first, const QString& second);
    double share() const;

Q_SIGNALS:
    void shareChanged();

private:
    QLabel *first_, *second_;
    QSlider* slider_;
};

/// A way of looking at a piece that comes in sizes: the first, the second, and between them one that is
/// blended from both as games do, under one camera. What is picked on one is picked on all.
class SizesMode : public QObject {
    Q_OBJECT
public:
    SizesMode(Session& session, ModelView& view, WorkbenchScenes& scenes, WorkbenchHands& hands,
              SizesCard& card, SizesBar& bar, QObject* parent);

    void setOn(bool on);
    bool isOn() const { return on_; }
    void open(const QString& piece, const QString& platform);

private:
    const CrossingState& state() const;
    /// Compares the sizes and shows them.
    void rebuild(bool frame);
    /// Puts them into the view as they were compared, the one between as the bar stands.
    void showSizes(bool frame);
    void lightDifference(int object);
    /// What both sizes are where a kept selection is used first; nothing where none holds on the first.
    struct Both {
        const Model *first, *second;
    };
    Both whereUsed(const std::string& selection) const;
    std::vector<std::string> homeless() const;
    void carryOver(const std::string& selection);
    void showGuess();
    void endGuess(bool keeps);

    Session& session_;
    ModelView& view_;
    WorkbenchScenes& scenes_;
    WorkbenchHands& hands_;
    SizesCard& card_;
    SizesBar& bar_;
    QString piece_, platform_;
    bool on_ = false;
    geometry::TwinReport report_;
    struct Guessed {
        std::string name;
        selection::CarriedOver guess;
        int secondFirst = 0; ///< where the second's nodes begin in what is shown
    };
    std::optional<Guessed> guess_; ///< while it is looked at
    int broadFirst_ = 0;           ///< where the second size's nodes begin in what is shown
};

} // namespace zl::app
