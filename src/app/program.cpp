#include "app/program.h"

#include "core/base/error.h"

#include <QSurfaceFormat>

#include <clocale>
#include <iostream>

namespace zl::app {

Program::Program(int& argc, char** argv) : QApplication(argc, argv) {
    std::setlocale(LC_NUMERIC, "C"); // the base class set it to the user's
}

bool Program::notify(QObject* receiver, QEvent* event) {
    std::string words;
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& problem) {
        words = wordsOf(problem);
    } catch (...) {
        words = "Something unforeseen went wrong.";
    }
    std::cerr << "zest-loom: " << words << std::endl;
    Q_EMIT troubled(QString::fromStdString(words));
    return true;
}

void Program::askForOpenGl() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    QSurfaceFormat::setDefaultFormat(format);
}

} // namespace zl::app
