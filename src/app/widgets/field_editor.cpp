#include "app/widgets/field_editor.h"

#include "app/widgets/ui.h"

#include "core/base/pattern.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QWheelEvent>

namespace zl::app {

namespace {

QString text(std::string_view s) {
    return QString::fromUtf8(s.data(), qsizetype(s.size()));
}

/// Numbers without trailing zeros and with thin spaces; the wheel scrolls the panel, not the number.
class NumberBox : public QDoubleSpinBox {
public:
    NumberBox() {
        setLocale(QLocale::c());
        setDecimals(5);
        setKeyboardTracking(false);
        setAlignment(Qt::AlignRight);
        setButtonSymbols(QAbstractSpinBox::NoButtons);
    }
    QString textFromValue(double value) const override {
        return QString::fromStdString(showNumber(value, decimals()));
    }
    /// For lengths: what one shown unit is in metres, so that "2.2 m" or "7 ft" can be typed.
    double metresPerUnit = 0;
    double valueFromText(const QString& shown) const override {
        if (standsForLeast(shown)) return minimum();
        QString number = cleaned(shown);
        const double factor = takeUnit(number, shown);
        return number.toDouble() * factor;
    }
    QValidator::State validate(QString& shown, int&) const override {
        if (standsForLeast(shown)) return QValidator::Acceptable;
        const QString number = cleaned(shown);
        if (number.isEmpty() || number == "-" || number == "." || number == "-.")
            return QValidator::Intermediate;
        QString digits = number;
        const double factor = takeUnit(digits, shown);
        bool fine = false;
        const double value = digits.toDouble(&fine) * factor;
        // A unit may still be being typed.
        if (!fine && metresPerUnit > 0 && !number.isEmpty() && number[number.size() - 1].isLetter())
            return QValidator::Intermediate;
        if (!fine) return QValidator::Invalid;
        return value >= minimum() && value <= maximum() ? QValidator::Acceptable : QValidator::Intermediate;
    }
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }

private:
    bool standsForLeast(const QString& shown) const {
        return !specialValueText().isEmpty() && shown == specialValueText();
    }
    /// Takes a known unit's id off the end of `number`; returns what the number is to be multiplied by.
    double takeUnit(QString& number, const QString& shown) const {
        if (metresPerUnit <= 0 || number.isEmpty() || !number[number.size() - 1].isLetter()) {
            number = cleaned(shown);
            return 1;
        }
        for (const Unit& unit : knownUnits()) {
            const QString id = QString::fromStdString(unit.id);
            if (!number.endsWith(id) ||
                (number.size() > id.size() && number[number.size() - id.size() - 1].isLetter()))
                continue;
            number.chop(id.size());
            return unit.metres / metresPerUnit;
        }
        return 1;
    }
    QString cleaned(QString shown) const {
        shown.remove(suffix()).remove(QChar(0x2009)).remove(' ').replace(',', '.');
        return shown;
    }
};

class ChoiceBox : public QComboBox {
public:
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }
};

} // namespace

FieldEditor::FieldEditor(const steps::Step& step, std::shared_ptr<const platform::Sheet> sheet,
                         QWidget* parent)
    : QWidget(parent), sheet_(std::move(sheet)) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 4, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(7);
    grid->setColumnStretch(1, 1);
    const auto params = step.params();
    int row = 0;
    for (const steps::Field& field : step.fields()) {
        if (!step.isShown(field)) continue;
        QWidget* editor = editorFor(field, params[std::string(field.name)]);
        editor->setObjectName("field-" + text(field.name));
        if (editor->toolTip().isEmpty()) editor->setToolTip(text(field.explanation));
        editor->setAccessibleName(text(field.label));
        if (field.kind == steps::FieldKind::Flag) {
            grid->addWidget(editor, row++, 0, 1, 2);
            continue;
        }
        auto* label = textLabel(text(field.label));
        label->setBuddy(editor);
        label->setToolTip(text(field.explanation));
        const bool wide = field.kind == steps::FieldKind::Point;
        grid->addWidget(label, row, 0, 1, wide ? 2 : 1);
        grid->addWidget(editor, wide ? ++row : row, wide ? 0 : 1, 1, wide ? 2 : 1);
        ++row;
    }
    if (row == 0) grid->addWidget(textLabel(tr("Nothing to set."), "dim"), 0, 0);
}

QWidget* FieldEditor::editorFor(const steps::Field& field, const nlohmann::json& value) {
    using steps::FieldKind;
    const QString name = text(field.name);
    const double unit = sheet_ ? sheet_->metresPerUnit : 1;
    const QString unitName = sheet_ ? QString::fromStdString(sheet_->unitName) : QString("m");
    if (field.kind == FieldKind::Choice) {
        auto* box = new ChoiceBox;
        for (const auto& choice : field.choices) {
            box->addItem(text(choice.label), text(choice.id));
            if (value == choice.id) box->setCurrentIndex(box->count() - 1);
        }
        box->setMinimumContentsLength(8);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        connect(box, &QComboBox::activated, this,
                [this, box, name] { Q_EMIT changed(name, box->currentData().toString().toStdString()); });
        return box;
    }
    if (field.kind == FieldKind::Flag) {
        auto* box = new QCheckBox(text(field.label));
        box->setChecked(value.get<bool>());
        connect(box, &QCheckBox::toggled, this, [this, name](bool on) { Q_EMIT changed(name, on); });
        return box;
    }
    if (field.kind == FieldKind::Text) {
        auto* edit = new QLineEdit(QString::fromStdString(value.get<std::string>()));
        edit->setMaxLength(500);
        edit->setPlaceholderText(text(field.leastMeans));
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, name, was = edit->text()] {
            if (edit->text() != was) Q_EMIT changed(name, edit->text().toStdString());
        });
        return edit;
    }
    if (field.kind == FieldKind::Parts) {
        auto* edit =
            new QLineEdit(QString::fromStdString(patternsText(value.get<std::vector<std::string>>())));
        edit->setPlaceholderText(text(field.leastMeans));
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, name, was = edit->text()] {
            if (edit->text() != was) Q_EMIT changed(name, patternsFrom(edit->text().toStdString()));
        });
        return edit;
    }
    if (field.kind == FieldKind::Point) {
        auto* row = new QWidget;
        auto* layout = new QHBoxLayout(row);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->setSpacing(4);
        std::vector<NumberBox*> boxes;
        for (int k = 0; k < 3; ++k) {
            auto* box = new NumberBox;
            box->setRange(-1e9, 1e9);
            box->setDecimals(3);
            box->setMinimumWidth(56); // its own wish is for the longest number there could be
            box->setValue(value[k].get<double>() / unit);
            box->setToolTip(QString("%1 in %2").arg(QString("XYZ").mid(k, 1), unitName));
            layout->addWidget(box);
            boxes.push_back(box);
        }
        for (auto* box : boxes)
            connect(box, &QDoubleSpinBox::valueChanged, this, [this, boxes, name, unit] {
                Q_EMIT changed(name,
                               nlohmann::json::array({boxes[0]->value() * unit, boxes[1]->value() * unit,
                                                      boxes[2]->value() * unit}));
            });
        return row;
    }
    auto* box = new NumberBox;
    double factor = 1;
    if (field.kind == FieldKind::Length) {
        factor = unit;
        box->metresPerUnit = unit;
        box->setSuffix(" " + unitName);
        box->setToolTip(tr("In %1; other units can be typed, like 2.2 m, 7 ft or 12 in").arg(unitName));
    } else if (field.kind == FieldKind::Share) {
        factor = 0.01;
        box->setSuffix(" %");
        box->setDecimals(2);
    } else if (field.kind == FieldKind::Angle) {
        box->setSuffix("°");
        box->setDecimals(2);
    } else if (field.kind == FieldKind::Count) {
        box->setDecimals(0);
    }
    box->setRange(field.least / factor, field.most / factor);
    box->setSpecialValueText(text(field.leastMeans));
    box->setValue(value.get<double>() / factor);
    const bool whole = field.kind == FieldKind::Count;
    connect(box, &QDoubleSpinBox::valueChanged, this, [this, name, factor, whole, field](double v) {
        const double inside = std::clamp(v * factor, field.least, field.most);
        Q_EMIT changed(name, whole ? nlohmann::json(static_cast<long long>(std::llround(inside)))
                                   : nlohmann::json(inside));
    });
    return box;
}

} // namespace zl::app
