// Everything that the find box can find.
#include "app/main_window.h"

#include "app/pages/find_box.h"
#include "app/pages/loom_page.h"
#include "app/pages/workbench_page.h"
#include "app/qt_text.h"

#include "core/steps/step.h"

#include <QStackedWidget>

#include <algorithm>

namespace zl::app {

void MainWindow::openFind(const QString& text) {
    std::vector<Findable> all;
    if (session_.isOpen()) {
        // Where a piece is set up already comes first.
        for (const bool setUp : {true, false})
            for (const auto& piece : session_.project().pieces)
                for (const auto& id : session_.project().platforms)
                    if (const auto sheet = session_.sheet(id); sheet && (piece.on(id) != nullptr) == setUp)
                        all.push_back(
                            {tr("%1 on %2").arg(qs(piece.name), qs(sheet->name)),
                             setUp ? tr("piece") : tr("piece, set it up there"),
                             [this, piece = qs(piece.name), id = qs(id)] { showWorkbench(piece, id); }});
        for (const auto& sheet : session_.sheets()) {
            const bool inLoom = std::ranges::find(session_.project().platforms, sheet->id) !=
                                session_.project().platforms.end();
            all.push_back({qs(sheet->name), inLoom ? tr("platform") : tr("platform, add to the Loom"),
                           [this, sheet, inLoom] {
                               if (!inLoom) session_.showPlatform(*sheet, true);
                               showLoom();
                               if (!session_.project().pieces.empty())
                                   loom_->select(qs(session_.project().pieces.front().name), qs(sheet->id));
                           }});
        }
        if (pages_->currentWidget() == workbench_)
            for (const auto& step : steps::allSteps())
                all.push_back({tr("Add %1").arg(qs(step->info().name)),
                               tr("step, %1").arg(stageTitle(step->info().stage)),
                               [this, id = std::string(step->info().id)] { workbench_->addStep(id); }});
    }
    for (const Command& command : commands_)
        all.push_back({command.name,
                       command.keys.isEmpty()
                           ? tr("command")
                           : tr("command, %1").arg(command.keys.toString(QKeySequence::NativeText)),
                       command.run});
    auto* box = new FindBox(std::move(all), this);
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->type(text);
    box->open();
}

} // namespace zl::app
