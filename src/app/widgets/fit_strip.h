#pragma once
#include "app/widgets/mark.h"

#include <QAbstractButton>

class QGridLayout;

namespace zl::app {

/// One limit as a gauge: name, measured value, limit, and a bar with the limit marked.
class Gauge : public QAbstractButton {
    Q_OBJECT
public:
    explicit Gauge(QWidget* parent) : QAbstractButton(parent) {
        setFocusPolicy(Qt::StrongFocus);
        setCursor(Qt::PointingHandCursor);
    }
    void show(const platform::RuleResult& rule);
    const platform::RuleResult& rule() const { return rule_; }
    QSize sizeHint() const override { return {150, 56}; }
    QSize minimumSizeHint() const override { return {110, 56}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    platform::RuleResult rule_;
};

/// Every limit of the platform, always in sight.
class FitStrip : public QWidget {
    Q_OBJECT
public:
    explicit FitStrip(QWidget* parent = nullptr);
    void show(const platform::FitReport& report);
    void clear();

Q_SIGNALS:
    /// A gauge was chosen: show what it complains about and what can mend it.
    void chosen(const QString& rule);

private:
    QGridLayout* grid_;
    std::vector<Gauge*> gauges_;
};

} // namespace zl::app
