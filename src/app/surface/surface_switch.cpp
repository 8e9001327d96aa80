#include "app/surface/surface_switch.h"

#include "app/widgets/flow_row.h"

#include <QToolButton>

namespace zl::app {

SurfaceSwitch::SurfaceSwitch(FlowRow& row, QObject* parent) : QObject(parent) {
    const struct {
        const char* name;
        QString text, tip;
    } sights[] = {{"model", tr("Model"), tr("The piece itself")},
                  {"pictures", tr("Pictures"), tr("The open material's pictures, channel by channel")},
                  {"layout", tr("UV layout"), tr("How parts lie on the open material's picture")}};
    for (std::size_t i = 0; i < 3; ++i) {
        auto* button = new QToolButton;
        button->setObjectName(QString("sight-") + sights[i].name);
        button->setText(sights[i].text);
        button->setToolTip(sights[i].tip);
        button->setCheckable(true);
        button->setProperty("mode", true);
        button->setFocusPolicy(Qt::StrongFocus);
        connect(button, &QToolButton::clicked, this, [this, i] { Q_EMIT chosen(SurfaceSight(i)); });
        row.add(button);
        buttons_[i] = button;
    }
    row.addGap();
    show(SurfaceSight::Model);
}

void SurfaceSwitch::setVisible(bool visible) {
    for (QToolButton* button : buttons_) button->setVisible(visible);
}

void SurfaceSwitch::show(SurfaceSight sight) {
    for (std::size_t i = 0; i < 3; ++i) buttons_[i]->setChecked(SurfaceSight(i) == sight);
}

} // namespace zl::app
