#pragma once
#include <QApplication>

namespace zl::app {

/// The application with its edge: no exception leaves it, numbers in files never follow the user's language,
/// and OpenGL is asked for in the version that the views need.
class Program : public QApplication {
    Q_OBJECT
public:
    Program(int& argc, char** argv);
    bool notify(QObject* receiver, QEvent* event) override;

    /// To be called before the first window of any kind.
    static void askForOpenGl();

Q_SIGNALS:
    /// Something threw where nothing should: what it was, in words. The window goes on.
    void troubled(const QString& words);
};

} // namespace zl::app
