#pragma once
#include <QWidget>

#include <vector>

class QToolButton;

namespace zl::app {

/// Small widgets side by side along the top or bottom of a parent, in as many rows as its width asks for.
class FlowRow : public QWidget {
    Q_OBJECT
public:
    explicit FlowRow(QWidget* parent, Qt::Edge along = Qt::TopEdge);
    void add(QWidget* widget);
    /// Adds a button called "mode-NAME" that does something at once.
    QToolButton* addButton(const char* name, const QString& text, const QString& tip);
    /// Leaves a wider gap before the next widget.
    void addGap();
    /// Takes all widgets out, which are deleted once the events under way are done.
    void clear();

protected:
    bool event(QEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void arrange();
    struct Item {
        QWidget* widget;
        bool gap;
    };
    Qt::Edge along_;
    std::vector<Item> items_;
    bool gapNext_ = false;
};

} // namespace zl::app
