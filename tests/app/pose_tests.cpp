// A figure's hands and feet, dragged in the view.
#include "desk.h"

#include "core/figure/figure.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>

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
    REQUIRE(waitFor([&] { return desk.window->workbench().view().handles().handles().size() > 12; }));
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

TEST_CASE("a bone is aimed by the mark on its end, in degrees that its card shows, and the card goes back") {
    Desk desk;
    openFigure(desk);
    auto& view = desk.window->workbench().view();
    desk.click("mode-ahead");
    const auto handleOf = [&](const char* id) {
        const auto& handles = view.handles().handles();
        const auto found = std::ranges::find(handles, QString(id), &Handle::id);
        REQUIRE(found != handles.end());
        return *found;
    };
    const Handle head = handleOf("aim:head");
    const QPoint from = view.onScreen(head.at).toPoint();
    drag(view, Qt::LeftButton, from, from + QPoint(25, 0));
    REQUIRE(waitFor([&] { return !poseOf(desk)["turns"].empty(); }));
    REQUIRE(desk.idle());
    const auto turn = poseOf(desk)["turns"][0];
    CHECK(turn["bone"] == "head");
    CHECK(turn["z"].get<double>() < -5); // seen from ahead its left, +X, is on the right
    CHECK(turn["z"].get<double>() >= -30.01);
    CHECK(std::abs(turn["x"].get<double>()) < 6);
    desk.click("resetStep");
    CHECK(poseOf(desk)["turns"].empty());
    desk.session().undo().undo();
    CHECK_FALSE(poseOf(desk)["turns"].empty());
}

TEST_CASE("keys and buttons look from ahead, from the side and from above, and again from the other side") {
    Desk desk;
    openFigure(desk);
    auto& view = desk.window->workbench().view();
    QTest::keyClick(&view, Qt::Key_A);
    CHECK(view.camera().yaw == Approx(0).margin(1e-9));
    CHECK(view.camera().pitch == Approx(0).margin(1e-9));
    QTest::keyClick(&view, Qt::Key_A);
    CHECK(view.camera().yaw == Approx(M_PI));
    desk.click("mode-side");
    CHECK(view.camera().yaw == Approx(M_PI / 2));
    QTest::keyClick(&view, Qt::Key_T);
    CHECK(view.camera().pitch > 1.4);
    QTest::keyClick(&view, Qt::Key_T);
    CHECK(view.camera().pitch < -1.4);
}

namespace {

void bring(Desk& desk, const char* name, const Model& model) {
    writeAllOrNone(desk.folder.path(), formats::writeGlb(model, {name}, nullptr));
    desk.session().bringIn(
        QStringList{QString::fromStdString((desk.folder / (std::string(name) + ".glb")).string())});
}

/// A ball that another is set beside, both of 20 000 triangles.
void openPair(Desk& desk) {
    for (const char* name : {"drum", "other"})
        bring(desk, name, shapes::modelOf(shapes::sphere(160, 64, 0.5), name));
    desk.session().editCrossing("beside", "Drum", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe = {
            {"set-beside", true,
             steps::makeStep("set-beside", {{"items", {{{"item", {{"piece", "Other"}}}}}}})->params()}};
    });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Drum", "hearthboard");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.window->workbench().setStage(steps::Stage::Place);
}

} // namespace

TEST_CASE("what reaches into what is lit and listed, gone to by a click, and follows a figure's pose") {
    Desk desk;
    openFigure(desk);
    auto& view = desk.window->workbench().view();
    bring(desk, "crate", shapes::box({-0.2, 0.9, -0.2}, {0.2, 1.3, 0.2}));
    desk.session().editCrossing("wear it", "Figure", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe.insert(
            crossing.recipe.begin(),
            {"wear", true,
             steps::makeStep("wear", {{"items", {{{"item", {{"piece", "Crate"}}}, {"bone", "root"}}}}})
                 ->params()});
    });
    REQUIRE(desk.idle());
    desk.click("mode-clipping");
    REQUIRE(waitFor([&] { return desk.window->findChild<QPushButton*>("clipping-0") != nullptr; }));
    CHECK(showsText(*desk.window, "1 pair"));
    const auto far = view.camera().distance;
    desk.click("clipping-0");
    CHECK(view.camera().distance != far);
    CHECK(std::abs(view.camera().target.y - 1.1) < 0.35);
    desk.click("mode-clipping");
    CHECK(waitFor([&] {
        return desk.window->findChild<QPushButton*>("clipping-0") == nullptr ||
               !desk.window->findChild<QPushButton*>("clipping-0")->isVisible();
    }));
}

TEST_CASE(
    "a piece that stands beside is dragged on the floor, and what it reaches into is said as it moves") {
    Desk desk;
    openPair(desk);
    auto& view = desk.window->workbench().view();
    REQUIRE(waitFor(
        [&] { return std::ranges::count(view.handles().handles(), QString("move:0"), &Handle::id) == 1; }));
    desk.click("mode-clipping");
    REQUIRE(waitFor([&] { return desk.find<QLabel>("clippingNone") != nullptr; }));
    const auto handle = *std::ranges::find(view.handles().handles(), QString("move:0"), &Handle::id);
    CHECK(handle.at.x == Approx(1.1).margin(0.02));
    const QPoint from = view.onScreen(handle.at).toPoint();
    drag(view, Qt::LeftButton, from, view.onScreen(handle.at + glm::dvec3(0.3, 0, 0.6)).toPoint());
    const auto row = [&] {
        return desk.session().project().piece("Drum")->on("hearthboard")->recipe.at(0).params["items"][0];
    };
    REQUIRE(waitFor([&] { return row()["placed"] == true; }));
    CHECK(row()["at"][0].get<double>() == Approx(1.4).margin(0.1));
    CHECK(row()["at"][2].get<double>() == Approx(0.6).margin(0.1));
    REQUIRE(desk.idle());
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    // Twice 20 000 triangles within 100 ms on a quiet machine.
    INFO("milliseconds: " << desk.window->workbench().clipping().lastMillis());
    CHECK(desk.window->workbench().clipping().lastMillis() < 400);
}

TEST_CASE("a worn piece is dragged where it is seen, in the pose, and its offset is that at rest") {
    Desk desk;
    bring(desk, "lamp", shapes::box({-0.05, -0.2, -0.05}, {0.05, 0, 0.05}));
    writeAllOrNone(desk.folder.path(),
                   formats::writeGlb(figure::figureOf(figure::kindNamed("grown-a")), {"figure"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "figure.glb").string())});
    desk.session().editCrossing("dress it", "Figure", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe = {
            {"wear", true,
             steps::makeStep("wear", {{"items", {{{"item", {{"piece", "Lamp"}}}, {"bone", "hand.right"}}}}})
                 ->params()},
            {"pose", true,
             steps::makeStep(
                 "pose", {{"called", "up"}, {"reaches", {{{"end", "hand.right"}, {"to", {-0.4, 1.6, 0.2}}}}}})
                 ->params()}};
    });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Figure", "hearthboard");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.window->workbench().setStage(steps::Stage::Motion);
    auto& view = desk.window->workbench().view();
    auto* card = desk.find<QWidget>("card-wear");
    QTest::mouseClick(card, Qt::LeftButton, {}, {20, 12});
    const auto handle = [&]() -> std::optional<Handle> {
        for (const Handle& one : view.handles().handles())
            if (one.id == "move:0") return one;
        return std::nullopt;
    };
    REQUIRE(waitFor([&] { return handle().has_value(); }));
    desk.window->workbench().clips().choose("up");
    REQUIRE(waitFor([&] { return handle() && handle()->at.y > 1.5; })); // it hangs on the lifted hand
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.click("mode-ahead");
    const QPoint from = view.onScreen(handle()->at).toPoint(), to = from - QPoint(0, 40);
    drag(view, Qt::LeftButton, from, to);
    REQUIRE(desk.idle());
    const auto offset =
        desk.session().project().piece("Figure")->on("hearthboard")->recipe[0].params["items"][0]["offset"];
    const glm::dvec3 by(offset[0], offset[1], offset[2]);
    CHECK(glm::length(by) > 0.05);
    REQUIRE(waitFor([&] { return handle() && (view.onScreen(handle()->at) - to).manhattanLength() < 5; }));
}
