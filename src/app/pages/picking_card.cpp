#include "app/pages/picking_card.h"

#include "app/fields/choice_box.h"
#include "app/fields/number_box.h"
#include "app/qt_text.h"
#include "app/widgets/flow_row.h"
#include "app/widgets/ui.h"

#include "core/selection/grown.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <numbers>

namespace zl::app {

namespace {

using Takes = FacesTool::Takes;

QHBoxLayout* labelled(const QString& text, QWidget* widget) {
    auto* row = new QHBoxLayout;
    row->addWidget(textLabel(text, "dim"), 2);
    row->addWidget(widget, 3);
    widget->setAccessibleName(text);
    return row;
}

NumberBox* lengthBox(const QString& name, const QString& accessible) {
    auto* box = new NumberBox;
    box->setObjectName(name);
    box->setAccessibleName(accessible);
    box->setRange(-1e6, 1e6);
    box->setMinimumWidth(54); // two stand side by side
    return box;
}

} // namespace

PickingCard::PickingCard(ModelView& view, Selected& selected, FacesTool& tool)
    : view_(view), selected_(selected), tool_(tool) {
    setObjectName("picking");
    addHead(tr("Picking faces"));
    addTakes();
    addChanges();
    addHeights();
}

void PickingCard::setSheet(const SheetPointer& sheet) {
    sheet_ = sheet;
    for (NumberBox* box : {low_, high_}) box->metresPerUnit = sheet->metresPerUnit;
    unit_->setText(qs(sheet->unitName));
}

void PickingCard::addTakes() {
    auto* takes = new ChoiceBox;
    takes->setObjectName("pickTakes");
    for (const auto& [what, text] : {std::pair{Takes::Region, tr("up to the creases")},
                                     {Takes::Face, tr("one face")},
                                     {Takes::LoosePart, tr("its loose part")},
                                     {Takes::Object, tr("its object")},
                                     {Takes::Material, tr("all of its material")},
                                     {Takes::Island, tr("its UV island")},
                                     {Takes::Bone, tr("what hangs on its bone")}})
        takes->addItem(text, int(what));
    layout_->addLayout(labelled(tr("A click takes"), takes));
    bends_ = new QWidget;
    auto* bends = new QHBoxLayout(bends_);
    bends->setContentsMargins(0, 0, 0, 0);
    bends->addWidget(textLabel(tr("Bent by at most"), "dim"), 2);
    angle_ = new NumberBox;
    angle_->setObjectName("pickAngle");
    angle_->setAccessibleName(tr("Bent by at most"));
    angle_->setRange(0, 180);
    angle_->setSuffix("\u202f°");
    angle_->setButtonSymbols(QAbstractSpinBox::UpDownArrows);
    angle_->setSingleStep(5);
    angle_->setKeyboardTracking(true);
    angle_->setValue(tool_.angle() * 180 / std::numbers::pi);
    bends->addWidget(angle_, 3);
    layout_->addWidget(bends_);
    auto* drag = new ChoiceBox;
    drag->setObjectName("pickDrag");
    drag->addItems({tr("what is seen"), tr("through everything")});
    layout_->addLayout(labelled(tr("A drag takes"), drag));
    connect(takes, &QComboBox::currentIndexChanged, this, [this, takes] {
        tool_.setTakes(Takes(takes->currentData().toInt()));
        bends_->setVisible(tool_.takes() == Takes::Region);
    });
    connect(angle_, &QDoubleSpinBox::valueChanged, this,
            [this](double degrees) { tool_.setAngle(view_, degrees * std::numbers::pi / 180); });
    connect(drag, &QComboBox::currentIndexChanged, this,
            [this](int index) { tool_.goesThrough = index == 1; });
}

void PickingCard::addChanges() {
    auto* first = new QHBoxLayout;
    auto* second = new QHBoxLayout;
    first->setSpacing(6), second->setSpacing(6);
    const auto add = [&](QHBoxLayout* row, const char* name, const QString& text, const QString& tip,
                         auto does) {
        auto* made = button(text);
        made->setObjectName(name);
        made->setToolTip(tip);
        connect(made, &QPushButton::clicked, this, does);
        row->addWidget(made, 1);
    };
    add(first, "pickGrow", tr("Grow"), tr("With the faces that touch what is selected"),
        [this] { change(selection::grown); });
    add(first, "pickShrink", tr("Shrink"), tr("Without the faces along its border"),
        [this] { change(selection::shrunk); });
    add(second, "pickSmooth", tr("Smooth border"), tr("Faces that jut out or in go over to the other side"),
        [this] { change(selection::smoothed); });
    add(second, "pickTurnOver", tr("Turn over"), tr("All the other faces of these objects instead"), [this] {
        change([](const Mesh&, std::vector<char> marks) {
            for (char& mark : marks) mark = !mark;
            return marks;
        });
    });
    layout_->addLayout(first);
    layout_->addLayout(second);
}

void PickingCard::addHeights() {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    low_ = lengthBox("pickLow", tr("Lowest height"));
    high_ = lengthBox("pickHigh", tr("Highest height"));
    row->addWidget(textLabel(tr("Heights"), "dim"));
    row->addWidget(low_, 1);
    row->addWidget(textLabel(tr("to"), "dim"));
    row->addWidget(high_, 1);
    unit_ = textLabel({}, "dim");
    row->addWidget(unit_);
    auto* take = button(tr("Take what lies between"));
    take->setObjectName("pickHeights");
    take->setToolTip(tr("Faces whose middle lies between these heights; Shift adds, Alt takes away"));
    layout_->addLayout(row);
    layout_->addWidget(take);
    connect(take, &QPushButton::clicked, this, &PickingCard::takeHeights);
}

void PickingCard::change(
    const std::function<std::vector<char>(const Mesh&, const std::vector<char>&)>& change) {
    const auto scene = view_.scene();
    if (!scene) return;
    auto chosen = selected_.in(scene->model);
    for (std::size_t n = 0; n < chosen.faces.size(); ++n)
        if (!chosen.faces[n].empty())
            chosen.faces[n] =
                change(*scene->model.meshes[std::size_t(scene->model.nodes[n].mesh)], chosen.faces[n]);
    selected_.setFaces(scene->model, chosen);
}

void PickingCard::takeHeights() {
    const auto scene = view_.scene();
    if (!scene || !sheet_) return;
    const double unit = sheet_->metresPerUnit;
    selection::InBox within;
    within.least.y = std::min(low_->value(), high_->value()) * unit;
    within.most.y = std::max(low_->value(), high_->value()) * unit;
    const auto keys = QGuiApplication::keyboardModifiers();
    const auto found = selection::chosen(scene->model, {{{within, false}}});
    auto chosen = keys & (Qt::ShiftModifier | Qt::AltModifier)
                      ? selected_.in(scene->model)
                      : selection::Chosen{std::vector<std::vector<char>>(scene->model.nodes.size())};
    for (std::size_t n = 0; n < found.faces.size(); ++n)
        chosen.join(n, found.faces[n], bool(keys & Qt::AltModifier));
    selected_.setFaces(scene->model, chosen);
}

} // namespace zl::app
