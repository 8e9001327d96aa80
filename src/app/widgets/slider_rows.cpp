#include "app/widgets/slider_rows.h"

#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QGridLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QSlider>

namespace zl::app {

SliderRows::SliderRows(QWidget* parent) : QWidget(parent) {
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setVerticalSpacing(5);
    grid_->setHorizontalSpacing(8);
    grid_->setColumnStretch(1, 1);
}

void SliderRows::show(const std::vector<Row>& rows) {
    std::vector<std::pair<QString, QString>> wanted;
    for (const Row& row : rows) wanted.emplace_back(row.id, row.label);
    if (wanted != shown_) {
        shown_ = std::move(wanted);
        own_.clear();
        while (auto* item = grid_->takeAt(0)) {
            delete item->widget();
            delete item;
        }
        int line = 0;
        for (const Row& row : rows) {
            auto* name = textLabel(row.label);
            name->setWordWrap(false);
            auto* slider = new QSlider(Qt::Horizontal);
            slider->setObjectName("slide-" + row.id);
            slider->setAccessibleName(row.label);
            slider->setRange(0, 100);
            slider->setMinimumHeight(18); // else its handle is cut off
            auto* says = textLabel({}, "dim");
            says->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
            says->setMinimumWidth(says->fontMetrics().horizontalAdvance("100%"));
            connect(slider, &QSlider::valueChanged, this, [this, says, id = row.id](int value) {
                says->setText(tr("%1%").arg(value));
                Q_EMIT moved(id, value / 100.0);
            });
            grid_->addWidget(name, line, 0);
            grid_->addWidget(slider, line, 1);
            grid_->addWidget(says, line++, 2);
            own_[row.id] = {slider, says};
        }
    }
    for (const Row& row : rows) set(row.id, row.value);
}

void SliderRows::set(const QString& id, double value) {
    const auto found = own_.find(id);
    if (found == own_.end()) return;
    const QSignalBlocker quiet(found->second.slider);
    found->second.slider->setValue(int(std::lround(value * 100)));
    found->second.says->setText(tr("%1%").arg(found->second.slider->value()));
}

} // namespace zl::app
