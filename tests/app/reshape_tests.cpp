// Marks of Reshape: the two heights on a post beside the model, and the move.
#include "desk.h"

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

nlohmann::json rowOf(Desk& desk) {
    return desk.session().project().piece("Drum")->on("hearthboard")->recipe.at(0).params["rows"][0];
}

Handle markOf(ModelView& view, const char* id) {
    const auto& handles = view.handles().handles();
    const auto found = std::ranges::find(handles, QString(id), &Handle::id);
    REQUIRE(found != handles.end());
    return *found;
}

} // namespace

TEST_CASE("heights and the move of a row are dragged in the view, one undo each") {
    Desk desk;
    writeAllOrNone(desk.folder.path(), formats::writeGlb(shapes::modelOf(shapes::sphere(32, 16, 0.5), "drum"),
                                                         {"drum"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "drum.glb").string())});
    desk.session().editCrossing("reshape", "Drum", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe = {
            {"reshape", true,
             steps::makeStep("reshape", {{"rows", {{{"low", -0.2}, {"high", 0.2}}}}})->params()}};
    });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Drum", "hearthboard");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.window->workbench().setStage(steps::Stage::Shape);
    auto& view = desk.window->workbench().view();
    REQUIRE(waitFor([&] { return view.handles().handles().size() == 3; }));
    desk.click("mode-ahead");

    const QPoint high = view.onScreen(markOf(view, "high:0").at).toPoint();
    drag(view, Qt::LeftButton, high, high - QPoint(0, 30));
    REQUIRE(waitFor([&] { return rowOf(desk)["high"].get<double>() > 0.21; }));
    CHECK(rowOf(desk)["low"] == -0.2);
    REQUIRE(desk.idle());

    const QPoint middle = view.onScreen(markOf(view, "move:0").at).toPoint();
    drag(view, Qt::LeftButton, middle, middle + QPoint(40, 0));
    REQUIRE(waitFor([&] { return rowOf(desk)["move"][0].get<double>() > 0.02; }));
    REQUIRE(desk.idle());

    desk.session().undo().undo();
    CHECK(rowOf(desk)["move"][0] == 0);
    CHECK(rowOf(desk)["high"].get<double>() > 0.21);
    desk.session().undo().undo();
    CHECK(rowOf(desk)["high"] == 0.2);
}
