#pragma once
#include <QDialog>

#include <functional>
#include <vector>

class QLineEdit;
class QListWidget;

namespace zl::app {

/// Something that the find box can go to or do.
struct Findable {
    QString name;
    QString kind; ///< "piece", "platform", "step", "command"
    std::function<void()> go;
};

/// Finds any piece, platform, step or command by typing a part of its name.
class FindBox : public QDialog {
    Q_OBJECT
public:
    FindBox(std::vector<Findable> all, QWidget* parent);
    void type(const QString& text);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void filter(const QString& text);
    void take();
    std::vector<Findable> all_;
    QLineEdit* edit_;
    QListWidget* list_;
};

} // namespace zl::app
