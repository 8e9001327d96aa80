#include "app/surface/layout_card.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QGridLayout>
#include <QPushButton>

namespace zl::app {

namespace {

bool has(const SurfaceLook& look, std::size_t island, LayoutFault fault) {
    const uv::UvIsland& is = look.islands[island];
    switch (fault) {
    case LayoutFault::Overlapping:
        return look.overlapping[island];
    case LayoutFault::Outside:
        return is.isOutside();
    case LayoutFault::Mirrored:
        return is.isMirrored();
    case LayoutFault::Stretched:
        return is.stretch > uv::muchStretch;
    }
    return false;
}

} // namespace

bool LayoutCard::lights(const SurfaceLook& look, std::size_t island) const {
    for (std::size_t f = 0; f < lit_.size(); ++f)
        if (lit_[f] && has(look, island, LayoutFault(f))) return true;
    return false;
}

void LayoutCard::show(const SurfaceLook& look, const MaterialLook& material) {
    empty();
    setObjectName("layoutCard");
    layout_->addWidget(headingLabel(tr("UV layout of %1").arg(breakable(material.name)), 2));
    std::size_t count = 0;
    std::array<std::size_t, 4> faults{};
    double used = 0;
    for (std::size_t i = 0; i < look.islands.size(); ++i) {
        if (look.islands[i].material != material.index) continue;
        ++count, used += look.islands[i].uvArea;
        for (std::size_t f = 0; f < faults.size(); ++f) faults[f] += has(look, i, LayoutFault(f));
    }
    if (count == 0) {
        layout_->addWidget(
            textLabel(tr("No part that wears it has UVs. The step \"UVs anew\" gives it some."), "dim"));
        setVisible(true);
        return;
    }
    layout_->addWidget(textLabel(
        tr("%1; together as large as %2 of the picture. Click one to select its part.")
            .arg(qs(showCount(long(count), "island", "islands")), qs(showNumber(100 * used, 0)) + " %"),
        "dim"));
    const QString names[] = {tr("lie over others: %1"), tr("outside: %1"), tr("mirrored: %1"),
                             tr("stretched: %1")};
    const QString tips[] = {tr("Islands of which a part lies where others lie"),
                            tr("Islands that reach past the picture's borders"),
                            tr("Islands on which the picture is mirrored"),
                            tr("Islands on which pixels are more than twice as long as wide")};
    auto* grid = new QGridLayout;
    grid->setSpacing(6);
    for (std::size_t f = 0; f < faults.size(); ++f) {
        auto* chip = button(names[f].arg(faults[f]));
        chip->setObjectName(QString("fault-%1").arg(f));
        chip->setProperty("chip", true);
        chip->setCheckable(true);
        chip->setChecked(lit_[f]);
        chip->setToolTip(tips[f] + tr("; lit while this is pressed"));
        connect(chip, &QPushButton::toggled, this, [this, f](bool on) {
            lit_[f] = on;
            Q_EMIT litChanged();
        });
        grid->addWidget(chip, int(f / 2), int(f % 2));
    }
    layout_->addLayout(grid);
    auto* files = new QHBoxLayout;
    for (const bool svg : {false, true}) {
        auto* save =
            button(svg ? tr("Save as SVG…") : tr("Save as PNG…"), nullptr, svg ? QString() : QString("save"));
        save->setObjectName(svg ? "saveLayoutSvg" : "saveLayoutPng");
        save->setToolTip(tr("The layout with parts in colours and by name, to be painted on"));
        connect(save, &QPushButton::clicked, this, [this, svg] { Q_EMIT saveAsked(svg); });
        files->addWidget(save);
    }
    files->addStretch(1);
    layout_->addLayout(files);
    setVisible(true);
}

} // namespace zl::app
