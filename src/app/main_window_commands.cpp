// What can be done by name and by keys.
#include "app/main_window.h"

#include "app/qt_text.h"
#include "app/theme.h"

#include "core/figure/figure.h"

#include <QStackedWidget>
#include <QApplication>
#include <QSettings>
#include <QShortcut>

namespace zl::app {

void MainWindow::makeActions() {
    const auto onWorkbench = [this] { return pages_->currentWidget() == workbench_; };
    commands_ = {
        {tr("New project"), QKeySequence::New, [this] { newProject(); }},
        {tr("Open a project"), QKeySequence::Open, [this] { Q_EMIT start_->openAsked(); }},
        {tr("Save"), QKeySequence::Save, [this] { save(); }},
        {tr("Bring in models"), QKeySequence("Ctrl+I"), [this] { chooseModels(); }},
        {tr("New scene of solids"), {}, [this] { newScene(); }},
    };
    for (const figure::Kind& kind : figure::allKinds())
        commands_.push_back(
            {tr("Bring in a figure: %1").arg(qs(kind.name)), {}, [this, &kind] { bringInFigure(kind); }});
    const std::vector<Command> more{
        {tr("Undo"), QKeySequence::Undo, [this] { session_.undo().undo(); }},
        {tr("Redo"), QKeySequence("Ctrl+Shift+Z"), [this] { session_.undo().redo(); }},
        {tr("Choose platforms"), {}, [this] { showPlatforms(); }},
        {tr("Go to the Loom"), QKeySequence("Ctrl+0"), [this] { showLoom(); }},
        {tr("Find anything"), QKeySequence("Ctrl+K"), [this] { openFind(); }},
        {tr("Suggest for all"), QKeySequence("Ctrl+Shift+G"),
         [this] {
             if (session_.isOpen()) showLoom(), loom_->suggestForAll();
         }},
        {tr("Suggest a fit"), QKeySequence("Ctrl+G"),
         [this, onWorkbench] {
             if (onWorkbench()) workbench_->suggest();
         }},
        {tr("Build"), QKeySequence("Ctrl+B"), [this] { build(); }},
        {tr("Build all that fit"), QKeySequence("Ctrl+Shift+B"), [this] { buildAll(); }},
        {tr("Try it"), QKeySequence("F5"), [this] { tryOut(); }},
        {tr("What the game said"),
         {},
         [this, onWorkbench] {
             if (onWorkbench()) showGame(workbench_->piece(), workbench_->platform());
         }},
        {tr("Settings"), QKeySequence("Ctrl+,"), [this] { openSettings(); }},
        {tr("About Zest Loom"), {}, [this] { openAbout(); }},
        {tr("Switch between light and dusk"),
         {},
         [] {
             Theme::instance().setDusk(!Theme::instance().isDusk());
             QSettings().setValue("dusk", Theme::instance().isDusk());
         }},
        {tr("Close the project"), QKeySequence("Ctrl+W"),
         [this] {
             if (mayLeave()) session_.close(), showStart();
         }},
        {tr("Quit"), QKeySequence::Quit, [this] { close(); }},
    };
    commands_.insert(commands_.end(), more.begin(), more.end());
    for (const Command& command : commands_) {
        if (command.keys.isEmpty()) continue;
        auto* shortcut = new QShortcut(command.keys, this);
        connect(shortcut, &QShortcut::activated, this, command.run);
    }
    auto* back = new QShortcut(Qt::Key_Escape, tryout_);
    back->setContext(Qt::WidgetWithChildrenShortcut);
    connect(back, &QShortcut::activated, this, &MainWindow::backToWorkbench);
}

} // namespace zl::app
