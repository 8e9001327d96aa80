#include "app/theme.h"
#include "catch/runner.h"

#include <QApplication>
#include <QStandardPaths>
#include <QSurfaceFormat>

int main(int argc, char** argv) {
    // The tests' settings and data stay out of the user's.
    QStandardPaths::setTestModeEnabled(true);
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication app(argc, argv);
    QApplication::setOrganizationName("zest-loom-tests");
    QApplication::setApplicationName("zest-loom-tests");
    zl::app::Theme::instance();
    return runTests(argc, argv);
}
