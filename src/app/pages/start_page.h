#pragma once
#include <QDateTime>
#include <QStringList>
#include <QWidget>

class QVBoxLayout;

namespace zl::app {

/// What is shown when no project is open: recent projects, the demo, a new one, or a file dropped in.
class StartPage : public QWidget {
    Q_OBJECT
public:
    explicit StartPage(QWidget* parent = nullptr);
    void setRecent(const QStringList& files);
    /// Work that was never saved, as it can be taken up again, with when it was left.
    void setUnsaved(const std::vector<std::pair<QString, QDateTime>>& files);
    void setDemo(const QString& file); ///< empty hides it

Q_SIGNALS:
    void newAsked();
    void openAsked();
    void fileAsked(const QString& file);
    void demoAsked();
    void unsavedAsked(const QString& file);

private:
    QVBoxLayout *unsaved_, *recent_;
    QWidget* demo_;
};

} // namespace zl::app
