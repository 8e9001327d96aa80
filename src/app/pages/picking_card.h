#pragma once
#include "app/pages/cards.h"
#include "app/view/model_view.h"
#include "app/view/tools/faces_tool.h"

class QComboBox;
class QLabel;

namespace zl::app {

class NumberBox;

/// What a click and a drag take while faces are picked, and what can be done with those that are: grown,
/// shrunk, smoothed, turned over, taken by height. Shown while the tool is in hand.
class PickingCard : public SideCard {
    Q_OBJECT
public:
    PickingCard(ModelView& view, Selected& selected, FacesTool& tool);

    /// The unit in which heights are typed.
    void setSheet(const SheetPointer& sheet);

private:
    void addTakes();
    void addChanges();
    void addHeights();
    /// Gives each object's marks to `change`, and selects what comes back.
    void change(const std::function<std::vector<char>(const Mesh&, const std::vector<char>&)>& change);
    void takeHeights();

    ModelView& view_;
    Selected& selected_;
    FacesTool& tool_;
    SheetPointer sheet_;
    NumberBox *angle_, *low_, *high_;
    QLabel* unit_;
    QWidget* bends_;
};

} // namespace zl::app
