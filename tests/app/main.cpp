#include "app/program.h"
#include "app/theme.h"
#include "catch/runner.h"

#include <QStandardPaths>

int main(int argc, char** argv) {
    // The tests' settings and data stay out of the user's.
    QStandardPaths::setTestModeEnabled(true);
    zl::app::Program::askForOpenGl();
    zl::app::Program app(argc, argv);
    QApplication::setOrganizationName("zest-loom-tests");
    QApplication::setApplicationName("zest-loom-tests");
    zl::app::Theme::instance();
    return runTests(argc, argv);
}
