#include "app/fields/field_editor.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QGridLayout>
#include <QLabel>

namespace zl::app {

FieldEditor::FieldEditor(std::span<const fields::Field> fields, const nlohmann::ordered_json& values,
                         const std::function<bool(const fields::Field&)>& isShown, const EditingPlace& place,
                         QWidget* parent)
    : QWidget(parent) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 4, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(7);
    grid->setColumnStretch(1, 1);
    int row = 0;
    for (const fields::Field& field : fields) {
        if (!isShown(field)) continue;
        if (!field.heading.empty()) grid->addWidget(headingLabel(qs(field.heading), 2), row++, 0, 1, 2);
        const Editor& kind = editorOf(field.type());
        QWidget* editor = kind.make(
            field, values.at(std::string(field.name)), place,
            [this, name = qs(field.name)](const nlohmann::json& value) { Q_EMIT changed(name, value); });
        editor->setObjectName("field-" + qs(field.name));
        if (editor->toolTip().isEmpty()) editor->setToolTip(qs(field.explanation));
        editor->setAccessibleName(qs(field.label));
        if (kind.room == Editor::Room::Alone) {
            grid->addWidget(editor, row++, 0, 1, 2);
            continue;
        }
        auto* label = textLabel(qs(field.label));
        label->setBuddy(editor);
        label->setToolTip(qs(field.explanation));
        const bool below = kind.room == Editor::Room::Below;
        grid->addWidget(label, row, 0, 1, below ? 2 : 1);
        grid->addWidget(editor, below ? ++row : row, below ? 0 : 1, 1, below ? 2 : 1);
        ++row;
    }
    if (row == 0) grid->addWidget(textLabel(tr("Nothing to set."), "dim"), 0, 0);
}

} // namespace zl::app
