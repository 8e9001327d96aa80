#include "app/fields/editors.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

bool isNumber(const fields::Field& field) {
    return field.isOf(fields::number) || field.isOf(fields::length) || field.isOf(fields::angle) ||
           field.isOf(fields::share) || field.isOf(fields::count);
}

/// Lays the editors of one row out: the first in a line of its own, numbers three abreast
/// under what they are called, the rest each behind its name.
class RowLayout {
public:
    explicit RowLayout(QGridLayout& grid) : grid_(grid) {
        for (int k = 0; k < abreast; ++k) grid_.setColumnStretch(k, 1);
    }

    void add(const fields::Field& field, QWidget* editor, bool first) {
        if (first) {
            grid_.addWidget(editor, line_++, 0, 1, abreast);
        } else if (isNumber(field)) {
            if (column_ == abreast) endNumbers();
            grid_.addWidget(name(field), line_, column_);
            grid_.addWidget(editor, line_ + 1, column_++);
            editor->setMinimumWidth(56);
        } else if (field.isOf(fields::flag)) { // says itself what it is
            endNumbers();
            grid_.addWidget(editor, line_++, 1, 1, abreast - 1);
        } else {
            endNumbers();
            grid_.addWidget(name(field), line_, 0);
            grid_.addWidget(editor, line_++, 1, 1, abreast - 1);
        }
    }

private:
    static constexpr int abreast = 3;

    static QLabel* name(const fields::Field& field) { return textLabel(qs(field.label), "dim"); }
    void endNumbers() {
        if (column_ > 0) line_ += 2;
        column_ = 0;
    }

    QGridLayout& grid_;
    int line_ = 0, column_ = 0;
};

} // namespace

/// A block a row with an editor for each of its fields; a row more, a row less.
QWidget* makeListEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace& place,
                        const ValueChanged& changed) {
    if (const auto slots = slotsInTable(field, value, place); !slots.empty())
        return makeSlotTable(field, value, slots, place, changed);
    auto* all = new QWidget;
    auto* blocks = new QVBoxLayout(all);
    blocks->setContentsMargins(0, 0, 0, 0);
    blocks->setSpacing(6);
    for (std::size_t i = 0; i < value.size(); ++i) {
        auto* block = new QFrame;
        auto* line = new QHBoxLayout(block);
        line->setContentsMargins(0, 0, 0, 0);
        line->setSpacing(4);
        auto* grid = new QGridLayout;
        grid->setSpacing(4);
        RowLayout row(*grid);
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
            row.add(f, editor, &f == field.rowFields.data());
        }
        line->addLayout(grid, 1);
        auto* remove = iconButton("trash-2", QObject::tr("Take this row out"));
        QObject::connect(remove, &QToolButton::clicked, all, [changed, value, i] {
            nlohmann::json rows = value;
            rows.erase(rows.begin() + std::ptrdiff_t(i));
            changed(rows);
        });
        line->addWidget(remove, 0, Qt::AlignTop);
        blocks->addWidget(block);
    }
    auto* more = button(QObject::tr("Add a row"), "dashed", "plus");
    more->setObjectName("addRow");
    QObject::connect(more, &QPushButton::clicked, all, [changed, value, empty = field.emptyRow()] {
        nlohmann::json rows = value;
        rows.push_back(empty);
        changed(rows);
    });
    blocks->addWidget(more);
    return all;
}

} // namespace zl::app
