#pragma once
#include <QWidget>

#include <vector>

namespace zl::app {

/// Small widgets side by side over a parent, in as many rows as its width asks for.
class FlowRow : public QWidget {
    Q_OBJECT
public:
    explicit FlowRow(QWidget* parent);
    void add(QWidget* widget);
    /// Leaves a wider gap before the next widget.
    void addGap();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void arrange();
    struct Item {
        QWidget* widget;
        bool gap;
    };
    std::vector<Item> items_;
    bool gapNext_ = false;
};

} // namespace zl::app
