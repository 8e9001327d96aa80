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
    /// `before`, when it is not empty, is what the rule measured before a change that is only looked at.
    void show(const platform::RuleResult& rule, const std::string& before = {});
    const platform::RuleResult& rule() const { return rule_; }
    QSize sizeHint() const override { return {150, 56}; }
    QSize minimumSizeHint() const override { return {110, 56}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    platform::RuleResult rule_;
    QString before_;
};

/// Every limit of the platform, always in sight.
class FitStrip : public QWidget {
    Q_OBJECT
public:
    explicit FitStrip(QWidget* parent = nullptr);
    /// `before` is the report that a change is measured against; gauges then show both values where they
    /// differ.
    void show(const platform::FitReport& report, const platform::FitReport* before = nullptr);
    void clear();

Q_SIGNALS:
    /// A gauge was chosen: show what it complains about and what can mend it.
    void chosen(const QString& rule);

private:
    QGridLayout* grid_;
    std::vector<Gauge*> gauges_;
};

} // namespace zl::app
