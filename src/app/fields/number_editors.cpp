#include "app/fields/editors.h"
#include "app/fields/number_box.h"
#include "app/qt_text.h"

#include <QHBoxLayout>

namespace zl::app {

namespace {

double unitOf(const EditingPlace& place) {
    return place.sheet ? place.sheet->metresPerUnit : 1;
}
QString unitNameOf(const EditingPlace& place) {
    return place.sheet ? qs(place.sheet->unitName) : QString("m");
}

} // namespace

QWidget* makeNumberEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace& place,
                          const ValueChanged& changed) {
    auto* box = new NumberBox;
    double factor = 1;
    if (field.isOf(fields::length)) {
        factor = unitOf(place);
        box->metresPerUnit = factor;
        box->setSuffix(" " + unitNameOf(place));
        box->setToolTip(
            QObject::tr("In %1; other units can be typed, like 2.2 m, 7 ft or 12 in").arg(unitNameOf(place)));
    } else if (field.isOf(fields::share)) {
        factor = 0.01;
        box->setSuffix(" %");
        box->setDecimals(2);
    } else if (field.isOf(fields::angle)) {
        box->setSuffix("°");
        box->setDecimals(2);
    } else if (field.isOf(fields::count)) {
        box->setDecimals(0);
    }
    box->setRange(field.least / factor, field.most / factor);
    box->setSpecialValueText(qs(field.leastMeans));
    box->setValue(value.get<double>() / factor);
    const bool whole = field.isOf(fields::count);
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box,
                     [changed, factor, whole, least = field.least, most = field.most](double v) {
                         const double inside = std::clamp(v * factor, least, most);
                         changed(whole ? nlohmann::json(static_cast<long long>(std::llround(inside)))
                                       : nlohmann::json(inside));
                     });
    return box;
}

QWidget* makePointEditor(const fields::Field&, const nlohmann::json& value, const EditingPlace& place,
                         const ValueChanged& changed) {
    const double unit = unitOf(place);
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
        box->setValue(value[std::size_t(k)].get<double>() / unit);
        box->setToolTip(QObject::tr("%1 in %2").arg(QString("XYZ").mid(k, 1), unitNameOf(place)));
        layout->addWidget(box);
        boxes.push_back(box);
    }
    for (auto* box : boxes)
        QObject::connect(box, &QDoubleSpinBox::valueChanged, row, [boxes, unit, changed] {
            changed(nlohmann::json::array(
                {boxes[0]->value() * unit, boxes[1]->value() * unit, boxes[2]->value() * unit}));
        });
    return row;
}

} // namespace zl::app
