#pragma once
#include "app/selected.h"
#include "app/pages/step_offers.h"
#include "core/steps/step.h"

#include <QWidget>

class QLayout;
class QVBoxLayout;

namespace zl::app {

/// Where an entry of a recipe stands: in the piece's own recipe or in the crossing's.
struct EntryPlace {
    bool ofPiece = false;
    int index = -1;
    bool operator==(const EntryPlace&) const = default;
    /// Its place in the recipe that the piece runs on a platform.
    std::size_t within(const project::Piece& piece) const {
        return std::size_t(index) + (ofPiece ? 0 : piece.recipe.size());
    }
};

/// The steps of one stage as cards, with the parameters of the selected one.
class StepsPanel : public QWidget {
    Q_OBJECT
public:
    StepsPanel(Session& session, Selected& selected, QWidget* parent);
    void show(const QString& piece, const QString& platform, steps::Stage stage);
    void refresh() { rebuild(); }
    /// Adds a step behind those of its stage and selects it; `ofPiece` on every platform, else on this one.
    void add(const std::string& step, const nlohmann::json& params = nlohmann::json::object(),
             bool ofPiece = false);
    void setParam(EntryPlace place, const std::string& field, const nlohmann::json& value,
                  const QString& mergeKey);
    void setParams(EntryPlace place, const nlohmann::json& values, const QString& mergeKey);
    EntryPlace selected() const { return selected_; }
    void select(EntryPlace place);
    const recipe::Entry* entry(EntryPlace place) const;
    std::vector<EntryPlace> places() const; ///< of the stage's steps
    /// What the chosen step would take away were it on, in words; empty while that is not known.
    void setLooked(const QString& words);
    /// Brings the cursor into a parameter of the chosen step.
    void editField(const QString& field);

Q_SIGNALS:
    void selectionChanged();
    /// A clip is to be played in the view.
    void clipAsked(const QString& clip);

private:
    void rebuild();
    /// The stage's steps to choose from, where it has none yet.
    void showOffers(const CrossingState& state);
    void addOffered(const StepOffer& offer);
    QWidget* card(EntryPlace place, const recipe::Entry& entry, const recipe::Outcome* outcome);
    QLayout* headOf(EntryPlace place, const recipe::Entry& entry, const steps::StepInfo& info);
    /// What the step said when it ran; null when there is nothing to say.
    static QWidget* whatCameOf(const recipe::Entry& entry, const recipe::Outcome* outcome,
                               const QString& looked);
    QLayout* actionsOf(EntryPlace place, const steps::StepInfo& info);
    void turn(EntryPlace place, bool on);
    void scrollToChosen();
    void moveBy(EntryPlace place, int by);
    /// From the piece's recipe to this platform's, or the other way.
    void moveToOtherRecipe(EntryPlace place);
    void change(const QString& what, EntryPlace place, const std::function<void(recipe::Recipe&, int)>& edit,
                const QString& mergeKey = {});
    Session& session_;
    Selected& selectedInView_;
    QString looked_;
    QVBoxLayout* layout_;
    QString piece_, platform_;
    steps::Stage stage_ = steps::Stage::Place;
    EntryPlace selected_;
};

} // namespace zl::app
