#pragma once
#include "app/fields/editors.h"

#include "core/planner/planner.h"

#include <QFrame>

class QComboBox;
class QLabel;
class QVBoxLayout;

namespace zl::app {

/// A card in a plan that asks what only a person can know. The answer is a step with its parameters.
class QuestionCard : public QFrame {
    Q_OBJECT
public:
    /// The card for a question; `answer` is the one that was given already, or the step by which the plan
    /// goes until then; null for neither.
    static QuestionCard* of(const planner::Question& question, const recipe::Entry* answer,
                            const EditingPlace& place, QWidget* parent);

    /// Where the keyboard begins.
    virtual QWidget* begin() const = 0;
    /// Two points were clicked in the view, in metres as the piece stands before the answer.
    virtual void setPoints(const glm::dvec3&, const glm::dvec3&) {}

Q_SIGNALS:
    void answered(const zl::recipe::Entry& answer);
    /// The answer goes by points that are to be clicked in the view (or no longer does).
    void pointsAsked(bool asked);

protected:
    QuestionCard(const planner::Question& question, const QString& hint, QWidget* parent);
    void answer(const nlohmann::json& params);

    std::string step_;
    QVBoxLayout* layout_;
};

} // namespace zl::app
