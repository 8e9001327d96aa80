#include "app/main_window.h"
#include "app/program.h"
#include "app/shots.h"
#include "app/theme.h"

#include "core/base/units.h"
#include "core/base/version.h"

#include <QCommandLineParser>
#include <QSettings>

#include <algorithm>
#include <memory>
#include <string_view>

namespace {

/// Whether only words are asked for, which need no display.
bool asksForWords(int argc, char** argv) {
    constexpr std::string_view words[] = {"-h", "--help", "--help-all", "-v", "--version"};
    return std::any_of(argv + 1, argv + argc,
                       [&](const char* a) { return std::ranges::find(words, a) != std::end(words); });
}

} // namespace

int main(int argc, char** argv) {
    zl::app::Program::askForOpenGl();
    std::unique_ptr<QCoreApplication> app;
    if (asksForWords(argc, argv))
        app = std::make_unique<QCoreApplication>(argc, argv);
    else
        app = std::make_unique<zl::app::Program>(argc, argv);
    QApplication::setApplicationName("zest-loom");
    QApplication::setOrganizationName("zest-loom");
    QApplication::setApplicationDisplayName("Zest Loom");
    QApplication::setApplicationVersion(QString::fromStdString(std::string(zl::programVersion())));
    QApplication::setDesktopFileName("zest-loom");

    QCommandLineParser parser;
    parser.setApplicationDescription("Fits models to what games and creation platforms accept.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("file", "project (*.zestloom) or models to bring in", "[FILE…]");
    const QCommandLineOption screenshot("screenshot", "Draw one view into PNG, then end.", "PNG");
    const QCommandLineOption view("view",
                                  "Which view: start, platforms, loom, suggested, workbench, plan, contents, "
                                  "catalogue, package, tryout, chain, built, find, "
                                  "settings, endings, about.",
                                  "VIEW", "loom");
    const QCommandLineOption piece("piece", "Piece to open.", "NAME");
    const QCommandLineOption platform("on", "Platform to open it on.",
                                      "ID"); // Qt keeps --platform for itself
    const QCommandLineOption stage("stage",
                                   "Stage to open: gather, place, shape, surface, motion, contact, deliver.",
                                   "STAGE", "gather");
    const QCommandLineOption show(
        "show",
        "View modes to turn on, or what to do in a try-out, separated by commas: wire, deviation, walk …",
        "MODES");
    const QCommandLineOption rule("rule", "Gauge to choose.", "RULE");
    const QCommandLineOption fit("fit", "Add the suggested steps first.");
    const QCommandLineOption theme("theme", "light or dusk.", "THEME");
    const QCommandLineOption size("size", "Window size, like 1280x800.", "WxH", "1280x800");
    const QCommandLineOption demo("demo", "Demo project that the start page offers.", "FILE");
    parser.addOptions({screenshot, view, piece, platform, stage, show, rule, fit, theme, size, demo});
    parser.process(*app);

    const QString themeName = parser.value(theme);
    zl::app::Theme::instance().setDusk(themeName.isEmpty() ? QSettings().value("dusk", false).toBool()
                                                           : themeName == "dusk");
    zl::setThousandsGap(QSettings().value("thousandsGap", true).toBool());
    zl::app::MainWindow window;
    if (parser.isSet(demo))
        window.setDemo(parser.value(demo)); // otherwise it has found its own place already
    if (parser.isSet(screenshot)) window.setUnattended();
    QStringList models;
    for (const QString& file : parser.positionalArguments()) {
        if (file.endsWith(".zestloom")) {
            if (!window.openProject(file) && parser.isSet(screenshot)) return 2;
        } else {
            models << file;
        }
    }
    window.bringIn(models);
    if (!parser.isSet(screenshot)) {
        window.show();
        return QApplication::exec();
    }
    zl::app::Shot shot{parser.value(screenshot), parser.value(view),
                       parser.value(piece),      parser.value(platform),
                       parser.value(stage),      parser.value(show).split(',', Qt::SkipEmptyParts),
                       parser.value(rule),       parser.isSet(fit)};
    const QStringList wanted = parser.value(size).split('x');
    if (wanted.size() == 2) window.resize(wanted[0].toInt(), wanted[1].toInt());
    window.show();
    return zl::app::takeShot(window, shot) ? 0 : 1;
}
