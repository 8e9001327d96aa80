// A figure's hands and feet, dragged in the view.
#include "desk.h"

#include "core/figure/figure.h"

#include <QComboBox>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// The desk's window on a figure with an empty pose, its card chosen.
void openFigure(Desk& desk) {
    writeAllOrNone(desk.folder.path(),
                   formats::writeGlb(figure::figureOf(figure::kindNamed("grown-a")), {"figure"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "figure.glb").string())});
    desk.session().editCrossing("pose it", "Figure", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe = {{"pose", true, steps::makeStep("pose", {{"called", "wave"}})->params()}};
    });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Figure", "hearthboard");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.window->workbench().setStage(steps::Stage::Motion);
    REQUIRE(waitFor([&] { return desk.window->workbench().view().handles().handles().size() == 4; }));
}

nlohmann::json poseOf(Desk& desk) {
    return desk.session().project().piece("Figure")->on("hearthboard")->recipe.at(0).params;
}

} // namespace

TEST_CASE(
    "a pose's card shows its clip, and a hand that is dragged in the view reaches there, undone at once") {
    Desk desk;
    openFigure(desk);
    CHECK(desk.find<QComboBox>("whichClip")->currentText() == "wave");
    CHECK(showsText(*desk.window, "frame 0 of"));
    auto& view = desk.window->workbench().view();
    const auto handle = *std::ranges::find(view.handles().handles(), QString("hand.left"), &Handle::id);
    const QPoint from = view.onScreen(handle.at).toPoint(), to = from - QPoint(0, 60);
    drag(view, Qt::LeftButton, from, to);
    REQUIRE(waitFor([&] { return !poseOf(desk)["reaches"].empty(); }));
    REQUIRE(desk.idle());
    const auto reach = poseOf(desk)["reaches"][0];
    CHECK(reach["end"] == "hand.left");
    CHECK(reach["to"][1].get<double>() > handle.at.y + 0.05); // higher than it hung
    // The mark follows the hand, which is where it was let go.
    REQUIRE(waitFor([&] {
        const auto& handles = view.handles().handles();
        const auto now = std::ranges::find(handles, QString("hand.left"), &Handle::id);
        return now != handles.end() && (view.onScreen(now->at) - to).manhattanLength() < 4;
    }));
    desk.session().undo().undo();
    CHECK(poseOf(desk)["reaches"].empty());
}
