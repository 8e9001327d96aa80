#include "app/pages/cost_panel.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QSettings>
#include <QSpinBox>
#include <QVBoxLayout>

namespace zl::app {

namespace {

QString copiesWords(const std::optional<long long>& copies) {
    return copies ? qs(showNumber(double(*copies), 0)) : QObject::tr("any number");
}

QString amount(const platform::CostLimit& limit, double value) {
    return limit.what == "frame" ? QObject::tr("%1 ms").arg(qs(showMeasure(value))) : qs(showBytes(value));
}

} // namespace

CostPanel::CostPanel(QWidget* parent) : QWidget(parent) {
    setObjectName("costPanel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(5);
    column->addWidget(headingLabel(tr("What copies cost"), 2));
    auto* row = new QHBoxLayout;
    row->addWidget(textLabel(tr("Copies in the world")), 1);
    copies_ = new QSpinBox;
    copies_->setObjectName("copies");
    copies_->setAccessibleName(tr("Copies in the world"));
    copies_->setRange(1, 1000000);
    copies_->setValue(QSettings().value("cost/copies", 10).toInt());
    copies_->setFocusPolicy(Qt::StrongFocus);
    row->addWidget(copies_);
    column->addLayout(row);
    facts_ = textLabel({}, "dim");
    qualities_ = textLabel({});
    qualities_->setObjectName("costQualities");
    limits_ = textLabel({});
    limits_->setObjectName("costLimits");
    for (QLabel* label : {facts_, qualities_, limits_}) column->addWidget(label);
    connect(copies_, &QSpinBox::valueChanged, this, [this](int copies) {
        QSettings().setValue("cost/copies", copies);
        tell();
    });
    hide();
}

void CostPanel::show(const platform::Cost& cost, const platform::Sheet& sheet) {
    cost_ = cost, sheet_ = sheet.cost;
    setVisible(sheet_.saysSomething());
    tell();
}

void CostPanel::tell() {
    if (cost_.qualities.empty()) return;
    const double copies = copies_->value();
    facts_->setText(tr("%1 triangles; about %2 to upload; estimates.")
                        .arg(qs(showNumber(double(cost_.triangles), 0)), qs(showBytes(cost_.upload))));
    const QString right = "<td align='right' style='padding-left: 9px; white-space: nowrap'>";
    QString table = "<table cellspacing='1' width='100%'><tr><td>" + tr("Pictures") + "</td>" + right +
                    tr("one") + "</td>" + right + tr("shared") + "</td>" + right + tr("each its own") +
                    "</td></tr>";
    const bool several = cost_.qualities.size() > 1;
    for (const auto& quality : cost_.qualities) {
        const bool usual = several && &quality == &cost_.usual();
        const auto bytes = [&](double count, bool shared) {
            return qs(showBytes(cost_.memory(count, shared, quality, sheet_)));
        };
        const QString name = qs(quality.name).toHtmlEscaped() +
                             (quality.edge > 0 ? " " + QString::number(quality.edge) : QString());
        table += QString("<tr><td style='white-space: nowrap'>%1%2%3</td>")
                     .arg(usual ? "<b>" : "", name, usual ? "</b> ✓" : "") +
                 right + bytes(1, true) + "</td>" + right + bytes(copies, true) + "</td>" + right +
                 bytes(copies, false) + "</td></tr>";
    }
    table += "</table>";
    table += tr("\"Shared\" is one piece that is shown again.");
    if (several)
        table += " " + tr("Pictures are shrunk to so many pixels; ✓ is taken unless a setting is changed.");
    qualities_->setText(table);
    QStringList lines;
    for (const auto& limit : platform::costLimits(cost_, sheet_)) {
        const bool breaks = limit.shared && double(*limit.shared) < copies;
        const QString what = limit.what == "memory"   ? tr("Memory")
                             : limit.what == "upload" ? tr("Upload")
                                                      : tr("Frame");
        QString line = tr("%1: %2 of %3 each; holds %4 as one piece, %5 each its own")
                           .arg(what, amount(limit, limit.one), amount(limit, limit.most),
                                copiesWords(limit.shared), copiesWords(limit.unique));
        lines << (breaks ? tr("<b>! %1</b>").arg(line) : line);
    }
    limits_->setText(lines.join("<br>"));
}

} // namespace zl::app
