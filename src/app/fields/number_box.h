#pragma once
#include "core/base/units.h"

#include <QDoubleSpinBox>
#include <QWheelEvent>

namespace zl::app {

/// Numbers without trailing zeros and with thin spaces; the wheel scrolls the panel, and leaves
/// number and keyboard where they are.
class NumberBox : public QDoubleSpinBox {
public:
    NumberBox() {
        setLocale(QLocale::c());
        setDecimals(5);
        setKeyboardTracking(false);
        setAlignment(Qt::AlignRight);
        setButtonSymbols(QAbstractSpinBox::NoButtons);
        setFocusPolicy(Qt::StrongFocus);
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
        shown.remove(suffix()).remove(QChar(0x202f)).remove(' ').replace(',', '.');
        return shown;
    }
};

} // namespace zl::app
