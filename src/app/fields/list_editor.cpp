#include "app/fields/editors.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QGridLayout>
#include <QPushButton>
#include <QToolButton>

namespace zl::app {

/// One line a row with an editor for each of its fields; a row more, a row less.
QWidget* makeListEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace& place,
                        const ValueChanged& changed) {
    auto* all = new QWidget;
    auto* grid = new QGridLayout(all);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(4);
    for (std::size_t i = 0; i < value.size(); ++i) {
        int column = 0;
        for (const fields::Field& f : field.rowFields) {
            QWidget* editor = editorOf(f.type()).make(
                f, value[i].at(std::string(f.name)), place,
                [changed, value, i, name = std::string(f.name)](const nlohmann::json& v) {
                    nlohmann::json rows = value;
                    rows[i][name] = v;
                    changed(rows);
                });
            editor->setObjectName(QString("row-%1-%2").arg(i).arg(qs(f.name)));
            editor->setAccessibleName(QObject::tr("%1, row %2").arg(qs(f.label)).arg(i + 1));
            if (editor->toolTip().isEmpty()) editor->setToolTip(qs(f.label));
            grid->addWidget(editor, int(i), column++);
        }
        auto* remove = iconButton("trash-2", QObject::tr("Take this row out"));
        QObject::connect(remove, &QToolButton::clicked, all, [changed, value, i] {
            nlohmann::json rows = value;
            rows.erase(rows.begin() + std::ptrdiff_t(i));
            changed(rows);
        });
        grid->addWidget(remove, int(i), column);
    }
    auto* more = button(QObject::tr("Add a row"), "dashed", "plus");
    more->setObjectName("addRow");
    QObject::connect(more, &QPushButton::clicked, all, [changed, value, empty = field.emptyRow()] {
        nlohmann::json rows = value;
        rows.push_back(empty);
        changed(rows);
    });
    grid->addWidget(more, int(value.size()), 0, 1, int(field.rowFields.size()) + 1);
    return all;
}

} // namespace zl::app
